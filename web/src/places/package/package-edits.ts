import { packageWith, type PackageChange } from '@folvex/contract';
import { findingKey, movePages, parseLayoutName, type Finding, type Fix, type SheetPackage } from '@folvex/core';
import type { StripPage } from '../../state/packages/packages.selectors';
import { omitKey } from '../../state/omit-key';

/** Ids of pages as the strip shows them, those that a rule takes in among them. */
export function visibleOrder(strip: readonly StripPage[]): string[] {
  return strip.map(({ id }) => id);
}

/**
 * Moves pages by hand, so that the first of them comes to `to`: that frees them from those they were to follow, and
 * places what the rule took in.
 */
export function pagesMoved(
  pack: SheetPackage,
  strip: readonly StripPage[],
  positions: ReadonlySet<number>,
  to: number,
): PackageChange {
  const order = visibleOrder(strip);
  let after = pack.after;
  for (const at of positions) if (after && order[at] !== undefined) after = omitKey(after, order[at]);
  return { order: movePages(order, positions, to), ...(after && { after }) };
}

/** Removes pages; those that the rule takes in stay, left out. */
export function pagesRemoved(pack: SheetPackage, pages: readonly StripPage[]): PackageChange {
  let [left, change]: [SheetPackage, PackageChange] = [pack, {}];
  for (const page of pages) {
    const one = pageRemoved(left, page);
    change = { ...change, ...one };
    left = packageWith(left, one);
  }
  return change;
}

/** Leaves pages out this time, or includes them again. */
export function pagesSkipped(pack: SheetPackage, pages: readonly StripPage[], skip: boolean): PackageChange {
  const changed = pages.map(({ id, options: { skip: _, ...options } }) => [id, { ...options, ...(skip && { skip }) }]);
  return { pages: { ...pack.pages, ...(Object.fromEntries(changed) as NonNullable<SheetPackage['pages']>) } };
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

/** Remembers why findings are accepted; without a reason they are no longer. */
export function findingsAccepted(
  { accepted = [] }: SheetPackage,
  findings: readonly Finding[],
  reason: string,
): PackageChange {
  const keys = new Set(findings.map(findingKey));
  const others = accepted.filter(({ finding }) => !keys.has(finding));
  return { accepted: reason ? [...others, ...[...keys].map((finding) => ({ finding, reason }))] : others };
}

/** The change that makes all fixes of the package itself, each on top of the one before; null where there are none. */
export function fixesMade(pack: SheetPackage, fixes: readonly Fix[]): PackageChange | null {
  let fixed = pack;
  let change: PackageChange = {};
  for (const fix of fixes) {
    const one = fixMade(fixed, fix);
    if (!one) continue;
    change = { ...change, ...one };
    fixed = packageWith(fixed, one);
  }
  return Object.keys(change).length > 0 ? change : null;
}

function fixMade(pack: SheetPackage, fix: Fix): PackageChange | null {
  if ('names' in fix) return { names: fix.names };
  if ('destination' in fix) return { destinations: (pack.destinations ?? []).with(fix.at, fix.destination) };
  return 'takeOut' in fix ? pageIdRemoved(pack, fix.takeOut, fix.keepFirst) : null;
}
