import type { Box } from '../geometry/box';
import { markBoxes, markOrder } from './mark-boxes';
import { PICTURE, TEXT, UNITS_PER_MM, type ClipShape, type Page } from './page';

/**
 * Part of a page put onto another, above what that one holds: the area (mm) comes to lie with its lower left corner at
 * `corner` of `onto` and nothing beyond it shows. Marks that lie wholly elsewhere are left out.
 */
export function excerpt(page: Page, area: Box, corner: readonly [number, number], onto: Page): Page {
  const order = markOrder(page);
  const [dx, dy] = [
    Math.round((corner[0] - area.xmin) * UNITS_PER_MM),
    Math.round((corner[1] - area.ymin) * UNITS_PER_MM),
  ];
  const kept = marksIn(page, area, order);
  const [layers, pens] = [
    [...onto.layers, ...page.layers],
    [...onto.pens, ...page.pens],
  ];
  const edge: ClipShape = [
    [
      Math.round(area.xmin * UNITS_PER_MM) + dx,
      Math.round(area.ymin * UNITS_PER_MM) + dy,
      Math.round(area.xmax * UNITS_PER_MM) + dx,
      Math.round(area.ymax * UNITS_PER_MM) + dy,
    ],
  ];
  const shifted = page.clips.map((shapes) => [
    edge,
    ...shapes.map((shape) => shape.map((loop) => loop.map((value, i) => value + (i % 2 === 0 ? dx : dy)))),
  ]);
  const clips = [...onto.clips, [edge], ...shifted];
  const plain = onto.clips.length + 1;
  const texts = [...onto.texts];
  const placed = [...onto.placed];
  const own = onto.markCount;
  const total = own + kept.length;
  const grown = <T extends Uint8Array | Uint16Array>(old: T, size: number): T => {
    const bigger = new (old.constructor as new (size: number) => T)(size);
    bigger.set(old);
    return bigger;
  };
  const [kind, layer, pen, clip] = [
    grown(onto.kind, total),
    grown(onto.layer, total),
    grown(onto.pen, total),
    grown(onto.clip, total),
  ];
  const verbStart = new Uint32Array(total + 1);
  const coordStart = new Uint32Array(total + 1);
  verbStart.set(onto.verbStart);
  coordStart.set(onto.coordStart);
  const sizes = kept.map((mark) => [
    page.verbStart[mark + 1]! - page.verbStart[mark]!,
    page.coordStart[mark + 1]! - page.coordStart[mark]!,
  ]);
  const verbs = grown(onto.verbs, onto.verbs.length + sizes.reduce((sum, [verb]) => sum + verb!, 0));
  const coords = new Int32Array(onto.coords.length + sizes.reduce((sum, [, coord]) => sum + coord!, 0));
  coords.set(onto.coords);
  let [verbAt, coordAt] = [onto.verbs.length, onto.coords.length];
  kept.forEach((mark, i) => {
    const at = own + i;
    kind[at] = page.kind[mark]!;
    layer[at] = page.layer[mark]! + onto.layers.length;
    pen[at] = page.pen[mark]! + onto.pens.length;
    clip[at] = page.clip[mark]! === 0 ? plain : plain + page.clip[mark]!;
    verbStart[at] = verbAt;
    coordStart[at] = coordAt;
    verbs.set(page.verbs.subarray(page.verbStart[mark], page.verbStart[mark + 1]), verbAt);
    for (let k = page.coordStart[mark]!; k < page.coordStart[mark + 1]!; k++) {
      coords[coordAt + k - page.coordStart[mark]!] =
        page.coords[k]! + ((k - page.coordStart[mark]!) % 2 === 0 ? dx : dy);
    }
    [verbAt, coordAt] = [verbAt + sizes[i]![0]!, coordAt + sizes[i]![1]!];
    if (page.kind[mark] === TEXT) {
      const text = page.texts[order[mark]!]!;
      texts.push({ ...text, x: text.x + dx, y: text.y + dy });
    } else if (page.kind[mark] === PICTURE) {
      const picture = page.placed[order[mark]!]!;
      placed.push({
        ...picture,
        picture: picture.picture + onto.pictures.length,
        e: picture.e + dx,
        f: picture.f + dy,
      });
    }
  });
  verbStart[total] = verbAt;
  coordStart[total] = coordAt;
  const { widthMm, heightMm } = onto;
  const pictures = [...onto.pictures, ...page.pictures];
  const columns = { kind, layer, pen, clip, verbStart, coordStart, verbs, coords };
  return {
    widthMm,
    heightMm,
    layers,
    pens,
    clips,
    texts,
    pictures,
    placed,
    markCount: total,
    tag: new Uint32Array(0),
    ...columns,
  };
}

/** Numbers of the marks that may show in an area, their line widths counted in. */
function marksIn(page: Page, area: Box, order: ArrayLike<number>): number[] {
  const boxes = markBoxes(page, order);
  const kept: number[] = [];
  for (let mark = 0; mark < page.markCount; mark++) {
    const reach = page.pens[page.pen[mark]!]?.width ?? 0;
    const beyond =
      boxes[4 * mark]! - reach > area.xmax * UNITS_PER_MM ||
      boxes[4 * mark + 1]! - reach > area.ymax * UNITS_PER_MM ||
      boxes[4 * mark + 2]! + reach < area.xmin * UNITS_PER_MM ||
      boxes[4 * mark + 3]! + reach < area.ymin * UNITS_PER_MM;
    if (!beyond) kept.push(mark);
  }
  return kept;
}
