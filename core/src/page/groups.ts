import { markOrder } from './mark-boxes';
import { PICTURE, type Page, type Pen } from './page';
import { pickMarks } from './pick';

/** What is done with the marks of a page and its groups. */
export interface GroupVisitor {
  mark(mark: number): void;
  /** A group (counted from 1) with its marks: those listed at `from` until `to`. */
  group(group: number, from: number, to: number): void;
}

/**
 * Hands the marks listed at `from` until `to` to a visitor, those of each group within `around` together. Marks of one
 * group stand next to each other in a list.
 */
export function visitGroups(
  page: Pick<Page, 'group' | 'groups'>,
  list: ArrayLike<number>,
  [from, to]: readonly [from: number, to: number],
  around: number,
  visitor: GroupVisitor,
): void {
  for (let at = from; at < to;) {
    const group = groupWithin(page, list[at]!, around);
    if (group === 0) {
      visitor.mark(list[at++]!);
      continue;
    }
    let end = at + 1;
    while (end < to && groupWithin(page, list[end]!, around) === group) end++;
    visitor.group(group, at, end);
    at = end;
  }
}

/** The group just inside another that a mark is in, counted from 1; 0 where it is in that one itself. */
function groupWithin({ group, groups }: Pick<Page, 'group' | 'groups'>, mark: number, around: number): number {
  let index = group[mark] ?? 0;
  if (index === around) return 0;
  while (index !== 0 && groups[index - 1]!.outer !== around) index = groups[index - 1]!.outer;
  return index;
}

/** True for a mark of a group or of one within it. */
export function isInGroup({ group, groups }: Pick<Page, 'group' | 'groups'>, mark: number, around: number): boolean {
  let index = group[mark] ?? 0;
  while (index !== 0 && index !== around) index = groups[index - 1]!.outer;
  return index === around;
}

/** Tells the marks of masks, which are not seen themselves, from others. */
export function maskTest(page: Pick<Page, 'group' | 'groups'>): (mark: number) => boolean {
  const masks = page.groups.flatMap(({ mask }) => mask ?? []);
  return (mark) => masks.some((one) => isInGroup(page, mark, one));
}

/** A page with its groups flattened, for formats that have none: the opacity of a group goes to its marks, masks are dropped. */
export function withoutGroups(page: Page): Page {
  if (page.group.length === 0) return page;
  const { groups } = page;
  const isOfMask = maskTest(page);
  const shareOf = (index: number): number => {
    let share = 1;
    for (let group = index; group > 0; group = groups[group - 1]!.outer) share *= groups[group - 1]!.opacity / 100;
    return share;
  };
  const pens: Pen[] = [...page.pens];
  const known = new Map<string, number>();
  const pen = page.pen.slice();
  const kept: number[] = [];
  const order = markOrder(page);
  const placed = [...page.placed];
  for (let mark = 0; mark < page.markCount; mark++) {
    if (isOfMask(mark)) continue;
    kept.push(mark);
    const share = shareOf(page.group[mark]!);
    if (share === 1) continue;
    if (page.kind[mark] === PICTURE) {
      const at = order[mark]!;
      placed[at] = { ...placed[at]!, opacity: Math.round(100 * share) };
      continue;
    }
    const key = `${pen[mark]} ${share}`;
    let index = known.get(key);
    if (index === undefined) {
      const own = pens[pen[mark]!]!;
      known.set(key, (index = pens.push({ ...own, opacity: Math.max(1, Math.round(own.opacity * share)) }) - 1));
    }
    pen[mark] = index;
  }
  return { ...pickMarks({ ...page, pens, pen, placed }, kept), group: new Uint32Array(0), groups: [] };
}
