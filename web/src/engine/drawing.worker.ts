import { expose, transfer } from 'comlink';
import { batchByPen, inColour, paintMarks, UNITS_PER_MM, type Canvas2D, type Page } from '@folvex/core';
import type { DrawingEngine } from './drawing-protocol';
import { asProblem, fetchPage } from './fetch-page';
import { groupCanvas } from './group-canvas';
import { MarkFinder } from './mark-finder';
import { picturesOf } from './pictures';
import { familyOf, typefacesOf } from './typefaces';
import { visibleBox } from './visible-box';

const CHOSEN = '#b93a14';
const MIN_LINE_PX = 1;
const READABLE_PX = 2;

let page: Page | undefined;
let finder: MarkFinder | undefined;

const engine: DrawingEngine = {
  async open(url) {
    try {
      page = await fetchPage(url);
      await typefacesOf(page, url);
      finder = new MarkFinder(page);
      const counts = new Map<number, number>();
      for (const layer of page.layer) counts.set(layer, (counts.get(layer) ?? 0) + 1);
      const layers = page.layers.map(({ name }, i) => ({ name, marks: counts.get(i) ?? 0 }));
      return { ok: true, widthMm: page.widthMm, heightMm: page.heightMm, marks: page.markCount, layers };
    } catch (error) {
      return { ok: false, problem: asProblem(error) };
    }
  },

  async paint(outlook, hidden, chosen) {
    const canvas = new OffscreenCanvas(Math.max(1, outlook.widthPx), Math.max(1, outlook.heightPx));
    const context = canvas.getContext('2d', { alpha: false })! as unknown as Canvas2D;
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    if (page && finder) {
      const scale = outlook.scale / UNITS_PER_MM;
      const map = {
        a: scale,
        b: 0,
        c: 0,
        d: -scale,
        e: outlook.widthPx / 2 - outlook.x * outlook.scale,
        f: outlook.heightPx / 2 + outlook.y * outlook.scale,
      };
      const pictures = await picturesOf(page, scale);
      const seen = finder.within(visibleBox(outlook), hidden);
      const list = batchByPen(page, finder.boxes, seen, scale, MIN_LINE_PX);
      paintMarks(context, page, map, {
        groupCanvas,
        letters: { familyOf },
        thinnestPx: MIN_LINE_PX,
        readablePx: READABLE_PX,
        pictures,
        marks: { list, order: finder.order },
      });
      if (chosen !== null) paintChosen(context, page, map, finder, chosen, outlook.scale);
    }
    const bitmap = canvas.transferToImageBitmap();
    // While the first picture is looked at; the next is mostly a part of the drawing.
    setTimeout(() => finder?.index());
    return transfer(bitmap, [bitmap]);
  },

  pick(x, y, reach, hidden) {
    const mark = finder?.nearest(x, y, reach, hidden);
    if (!page || !finder || mark === undefined) return null;
    const tag = page.tag[mark] ?? 0;
    return { tag, box: finder.boxOfTag(tag) };
  },

  find(tag) {
    return finder && finder.ofTag(tag).length > 0 ? { tag, box: finder.boxOfTag(tag) } : null;
  },

  snap(x, y, reach, hidden) {
    return finder?.vertex(x, y, reach, hidden) ?? null;
  },
};

expose(engine);

/** Goes over the marks of the chosen entity once more, in the signal colour. */
function paintChosen(
  context: Canvas2D,
  whole: Page,
  map: Parameters<typeof paintMarks>[2],
  marks: MarkFinder,
  tag: number,
  scale: number,
): void {
  const colour = parseInt(CHOSEN.slice(1), 16);
  const width = (2.5 / scale) * UNITS_PER_MM;
  const pens = whole.pens.map((pen) =>
    pen.masks ? pen : { ...inColour(pen, colour), width: Math.max(pen.width, width), opacity: 100 },
  );
  const list = marks.ofTag(tag);
  paintMarks(context, { ...whole, pens }, map, {
    groupCanvas,
    letters: { familyOf },
    marks: { list, order: marks.order },
  });
}
