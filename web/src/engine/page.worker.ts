import { expose, transfer } from 'comlink';
import {
  batchByPen,
  inkBySchedule,
  inkPage,
  linesUsed,
  paintMarks,
  paintPage,
  TEXT,
  UNITS_PER_MM,
  type Canvas2D,
  type Page,
} from '@folvex/core';
import { asProblem, fetchPage } from './fetch-page';
import { groupCanvas } from './group-canvas';
import { latestFirst } from './latest-first';
import { MarkFinder } from './mark-finder';
import { picturesOf } from './pictures';
import type { PageEngine, PageSource } from './protocol';
import { familyOf, typefacesOf } from './typefaces';

const MAX_CACHED_PAGES = 60;
/** Half of the connections that browsers open to a server (common practice). */
const MAX_FETCHES = 3;
/**
 * Of more texts than this, those that nobody could read are pale bars, and no line is thinner than a pixel: setting and
 * softening them takes most of the time.
 */
const [MANY_TEXTS, READABLE_PX, MIN_LINE_PX] = [2000, 2, 1];
const pages = new Map<string, Promise<Page>>();
const inTurn = latestFirst(MAX_FETCHES);
/** Finds marks by place, for the pages that were painted in part. */
const finders = new WeakMap<Page, MarkFinder>();

const engine: PageEngine = {
  async paint(source, widthPx, colour) {
    try {
      const page = await pageOf(source);
      await typefacesOf(page, source.url);
      const pixelsPerMm = widthPx / page.widthMm;
      const canvas = new OffscreenCanvas(widthPx, Math.max(1, Math.round(page.heightMm * pixelsPerMm)));
      const context = canvas.getContext('2d', { alpha: false })!;
      const pictures = await picturesOf(page, pixelsPerMm / UNITS_PER_MM);
      paintPage(context as unknown as Canvas2D, inkPage(page, colour), pixelsPerMm, {
        groupCanvas,
        letters: { familyOf },
        pictures,
      });
      const picture = canvas.transferToImageBitmap();
      return transfer({ ok: true, picture, widthMm: page.widthMm, heightMm: page.heightMm }, [picture]);
    } catch (error) {
      return { ok: false, problem: asProblem(error) };
    }
  },

  async paintPart(source, { xmin, ymin, xmax, ymax }, pixelsPerMm, colour, schedule) {
    try {
      const drawn = await pageOf(source);
      // Lines that do not print are not there: the marks have other numbers then.
      const page = schedule ? inkBySchedule(drawn, schedule) : drawn;
      await typefacesOf(page, source.url);
      const start = performance.now();
      const finder = finders.get(page) ?? new MarkFinder(page);
      finders.set(page, finder);
      const px = (mm: number): number => Math.max(1, Math.round(mm * pixelsPerMm));
      const canvas = new OffscreenCanvas(px(xmax - xmin), px(ymax - ymin));
      const context = canvas.getContext('2d', { alpha: false })! as unknown as Canvas2D;
      context.fillStyle = '#ffffff';
      context.fillRect(0, 0, canvas.width, canvas.height);
      const scale = pixelsPerMm / UNITS_PER_MM;
      const map = { a: scale, b: 0, c: 0, d: -scale, e: -xmin * pixelsPerMm, f: ymax * pixelsPerMm };
      const pictures = await picturesOf(page, scale);
      const inked = inkPage(page, colour);
      const seen = finder.within([xmin, ymin, xmax, ymax], []);
      const list = batchByPen(inked, finder.boxes, seen, scale, MIN_LINE_PX);
      const marks = { list, order: finder.order };
      let texts = 0;
      for (const mark of list) if (page.kind[mark] === TEXT) texts++;
      const hasty = texts > MANY_TEXTS && { readablePx: READABLE_PX, thinnestPx: MIN_LINE_PX };
      paintMarks(context, inked, map, { groupCanvas, letters: { familyOf }, pictures, marks, ...hasty });
      const picture = canvas.transferToImageBitmap();
      // While this one is looked at; the next is mostly another part.
      setTimeout(() => finder.index());
      return transfer({ ok: true, picture, milliseconds: performance.now() - start }, [picture]);
    } catch (error) {
      return { ok: false, problem: asProblem(error) };
    }
  },

  async linesUsed(source) {
    return linesUsed(await pageOf(source));
  },
};

expose(engine);

/** The page of a source; the last ones are kept, failed ones are asked for again. */
function pageOf({ url, version }: PageSource): Promise<Page> {
  const key = `${url}\n${version}`;
  const known = pages.get(key);
  if (known) return known;
  const page = inTurn(() => fetchPage(url));
  page.catch(() => pages.delete(key));
  pages.set(key, page);
  if (pages.size > MAX_CACHED_PAGES) pages.delete(pages.keys().next().value!);
  return page;
}
