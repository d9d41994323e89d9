import type { PackageChange } from '@folvex/contract';
import { findingKey, movePage, parseLayoutName, type Finding, type SheetPackage } from '@folvex/core';
import type { StripPage } from '../../state/packages/packages.selectors';
import { omitKey } from '../../state/omit-key';

/** Ids of pages as the strip shows them, those that a rule takes in among them. */
export function visibleOrder(strip: readonly StripPage[]): string[] {
  return strip.map(({ id }) => id);
}

/** Moves a page by hand: that frees it from the one it was to follow, and places what the rule took in. */
export function pageMoved(pack: SheetPackage, strip: readonly StripPage[], from: number, to: number): PackageChange {
  const order = visibleOrder(strip);
  return { order: movePage(order, from, to), ...(pack.after && { after: omitKey(pack.after, order[from]!) }) };
}

/** Takes a page out; one that the rule takes in stays, left out. */
export function pageRemoved(pack: SheetPackage, page: StripPage): PackageChange {
  if (page.byRule) return { pages: { ...pack.pages, [page.id]: { ...page.options, skip: true } } };
  const extras = pack.extras?.filter(({ id }) => id !== page.id);
  return { order: pack.order.filter((id) => id !== page.id), ...(extras && { extras }) };
}

/** Takes an id out of the order that a package has itself: everywhere, or all but the first of its places. */
export function pageIdRemoved({ order }: SheetPackage, out: string, keepFirst: boolean): PackageChange {
  return { order: order.filter((id, at) => id !== out || (keepFirst && order.indexOf(id) === at)) };
}

/** Puts a page of the package's own at a place of the strip: a divider there, a list of sheets before all. */
export function extraPageAdded(
  pack: SheetPackage,
  strip: readonly StripPage[],
  kind: 'divider' | 'index',
  place: number,
): { change: PackageChange; at: number } {
  const extras = pack.extras ?? [];
  let count = 1;
  while (extras.some(({ id }) => id === `${kind}-${count}`)) count++;
  const words =
    kind === 'index' ? { number: '00', title: 'List of sheets' } : { number: `D${count}`, title: 'Divider' };
  const id = `${kind}-${count}`;
  const order = visibleOrder(strip);
  const at = kind === 'index' ? 0 : place;
  const change = {
    extras: [...extras, { id, kind, ...words }],
    order: [...order.slice(0, at), id, ...order.slice(at)],
  };
  return { change, at };
}

/** Puts a drawing's space at the end of the order, under its own name. */
export function spaceAdded(
  pack: SheetPackage,
  strip: readonly StripPage[],
  { drawing, name, space }: { drawing: string; name: string; space: string },
): PackageChange {
  const extras = pack.extras ?? [];
  // The same in every package: it looks the same everywhere.
  const own = `${drawing} ${space}`;
  const times = extras.filter((extra) => extra.drawing === drawing && extra.space === space).length;
  const id = times > 0 ? `${own} ${times + 1}` : own;
  const said = space === 'model' ? { number: '', title: name } : parseLayoutName(space);
  return {
    extras: [...extras, { id, kind: 'space', ...said, drawing, space }],
    order: [...visibleOrder(strip), id],
  };
}

/** Remembers why a finding is accepted; without a reason it is no longer. */
export function findingAccepted({ accepted = [] }: SheetPackage, finding: Finding, reason: string): PackageChange {
  const key = findingKey(finding);
  const others = accepted.filter((one) => one.finding !== key);
  return { accepted: reason ? [...others, { finding: key, reason }] : others };
}
