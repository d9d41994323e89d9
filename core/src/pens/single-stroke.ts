import { LINE, MOVE } from '../geometry/path';
import { markOrder } from '../page/mark-boxes';
import { STROKE, TEXT, type Page, type PageText, type Pen } from '../page/page';
import type { FontId } from '../text/fonts';
import type { FontSet } from '../text/layout';
import { singleStrokes } from '../text/single-stroke';

/** The typeface that stands in for lettering which a drawing has as single strokes. */
const STROKED: FontId = 'technical';

/**
 * A page whose single-stroke lettering is drawn as lines of the pens it has, with the text itself unseen below, so that
 * it can be searched. A text with a character that there are no strokes for stays as it is.
 */
export function strokeLettering(page: Page, fonts: FontSet): Page {
  const lines = page.texts.map((text) => (text.font === STROKED ? linesOf(text, fonts) : undefined));
  if (!lines.some((some) => some)) return page;
  return new Redrawn(page, lines).build();
}

/** The lines of a text in page units, or undefined where a character has none. */
function linesOf(text: PageText, fonts: FontSet): number[][] | undefined {
  const face = fonts.face(text.font);
  const scale = text.size / face.unitsPerEm;
  const lines: number[][] = [];
  let along = 0;
  for (const character of text.text) {
    const codePoint = character.codePointAt(0)!;
    const strokes = singleStrokes(face, codePoint);
    if (!strokes) return undefined;
    for (const stroke of strokes) {
      const line: number[] = [];
      for (let i = 0; i < stroke.length; i += 2) {
        const [x, y] = [(along + stroke[i]!) * scale, stroke[i + 1]! * scale];
        line.push(Math.round(text.a * x + text.c * y + text.x), Math.round(text.b * x + text.d * y + text.y));
      }
      lines.push(line);
    }
    along += face.advanceOf(face.glyphOf(codePoint));
  }
  return lines;
}

/** Puts lines before the texts that they draw; everything else keeps its place. */
class Redrawn {
  private readonly pens: Pen[];
  private readonly solid = new Map<number, number>();

  constructor(
    private readonly page: Page,
    private readonly lines: readonly (number[][] | undefined)[],
  ) {
    this.pens = [...page.pens];
  }

  build(): Page {
    const { page, lines } = this;
    const order = markOrder(page);
    const linesAt = (mark: number): number[][] | undefined =>
      page.kind[mark] === TEXT ? lines[order[mark]!] : undefined;
    let [marks, points] = [page.markCount, 0];
    for (const some of lines) {
      if (!some) continue;
      marks++;
      for (const line of some) points += line.length / 2;
    }
    const [kind, layer] = [new Uint8Array(marks), new Uint16Array(marks)];
    const [pen, clip] = [new Uint32Array(marks), new Uint32Array(marks)];
    const tag = new Uint32Array(page.tag.length ? marks : 0);
    const group = new Uint32Array(page.group.length ? marks : 0);
    const block = page.block && new Uint32Array(marks);
    const [verbStart, coordStart] = [new Uint32Array(marks + 1), new Uint32Array(marks + 1)];
    const verbs = new Uint8Array(page.verbs.length + points);
    const coords = new Int32Array(page.coords.length + 2 * points);
    let [at, verb, coord] = [0, 0, 0];
    const put = (from: number, what: number, withPen: number): void => {
      [kind[at], layer[at], pen[at], clip[at]] = [what, page.layer[from]!, withPen, page.clip[from]!];
      if (tag.length) tag[at] = page.tag[from]!;
      if (group.length) group[at] = page.group[from]!;
      if (block) block[at] = page.block![from]!;
      [verbStart[at], coordStart[at]] = [verb, coord];
      at++;
    };
    for (let mark = 0; mark < page.markCount; mark++) {
      const drawn = linesAt(mark);
      if (drawn) {
        put(mark, STROKE, this.solidPen(page.pen[mark]!));
        for (const line of drawn) {
          for (let i = 0; i < line.length; i += 2) verbs[verb++] = i === 0 ? MOVE : LINE;
          coords.set(line, coord);
          coord += line.length;
        }
      }
      put(mark, page.kind[mark]!, page.pen[mark]!);
      verbs.set(page.verbs.subarray(page.verbStart[mark], page.verbStart[mark + 1]), verb);
      coords.set(page.coords.subarray(page.coordStart[mark], page.coordStart[mark + 1]), coord);
      verb += page.verbStart[mark + 1]! - page.verbStart[mark]!;
      coord += page.coordStart[mark + 1]! - page.coordStart[mark]!;
    }
    [verbStart[marks], coordStart[marks]] = [verb, coord];
    const texts = page.texts.map((text, i) => (lines[i] ? { ...text, unseen: true as const } : text));
    const columns = {
      kind,
      layer,
      pen,
      clip,
      tag,
      group,
      verbStart,
      coordStart,
      verbs,
      coords,
      ...(block && { block }),
    };
    return { ...page, pens: this.pens, texts, markCount: marks, ...columns };
  }

  /** The pen of a text as lettering is drawn with: without dashes, its ends round. */
  private solidPen(index: number): number {
    let solid = this.solid.get(index);
    if (solid === undefined) {
      const { width, colour, opacity, masks } = this.pens[index]!;
      const plain = { width, colour, opacity, dashes: [], round: true, ...(masks && { masks }) };
      this.solid.set(index, (solid = this.pens.push(plain) - 1));
    }
    return solid;
  }
}
