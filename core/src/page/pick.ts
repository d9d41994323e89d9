import { PICTURE, TEXT, type Page } from './page';
import { markOrder } from './mark-boxes';

/** A page of some of the marks of another, in the order of the list. Nothing else changes; columns are copies. */
export function pickMarks(page: Page, marks: ArrayLike<number>): Page {
  const order = markOrder(page);
  const count = marks.length;
  const column = <T extends Uint8Array | Uint16Array | Uint32Array>(from: T): T => {
    const type = from.constructor as new (size: number) => T;
    const picked = new type(from.length === 0 ? 0 : count);
    for (let i = 0; i < picked.length; i++) picked[i] = from[marks[i]!]!;
    return picked;
  };
  const verbStart = new Uint32Array(count + 1);
  const coordStart = new Uint32Array(count + 1);
  for (let i = 0; i < count; i++) {
    const mark = marks[i]!;
    verbStart[i + 1] = verbStart[i]! + page.verbStart[mark + 1]! - page.verbStart[mark]!;
    coordStart[i + 1] = coordStart[i]! + page.coordStart[mark + 1]! - page.coordStart[mark]!;
  }
  const verbs = new Uint8Array(verbStart[count]!);
  const coords = new Int32Array(coordStart[count]!);
  const texts: Page['texts'] = [];
  const placed: Page['placed'] = [];
  for (let i = 0; i < count; i++) {
    const mark = marks[i]!;
    verbs.set(page.verbs.subarray(page.verbStart[mark], page.verbStart[mark + 1]), verbStart[i]);
    coords.set(page.coords.subarray(page.coordStart[mark], page.coordStart[mark + 1]), coordStart[i]);
    if (page.kind[mark] === TEXT) texts.push(page.texts[order[mark]!]!);
    else if (page.kind[mark] === PICTURE) placed.push(page.placed[order[mark]!]!);
  }
  const [kind, layer, pen, clip] = [column(page.kind), column(page.layer), column(page.pen), column(page.clip)];
  const [tag, group] = [column(page.tag), column(page.group)];
  const columns = { kind, layer, pen, clip, tag, group, verbStart, coordStart, verbs, coords };
  const block = page.block && { block: column(page.block) };
  return { ...page, markCount: count, texts, placed, ...columns, ...block };
}
