import { expose, transfer } from 'comlink';
import { inkPage, paintPage, UNITS_PER_MM, type Canvas2D, type Page } from '@folvex/core';
import { asProblem, fetchPage } from './fetch-page';
import { picturesOf } from './pictures';
import type { PageEngine, PageSource } from './protocol';
import { FAMILIES, typefacesOf } from './typefaces';

const KEPT_PAGES = 60;
const pages = new Map<string, Promise<Page>>();

const engine: PageEngine = {
  async paint(source, widthPx, colour) {
    try {
      const page = await pageOf(source);
      await typefacesOf(page);
      const pixelsPerMm = widthPx / page.widthMm;
      const canvas = new OffscreenCanvas(widthPx, Math.max(1, Math.round(page.heightMm * pixelsPerMm)));
      const context = canvas.getContext('2d', { alpha: false })!;
      const pictures = await picturesOf(page, pixelsPerMm / UNITS_PER_MM);
      paintPage(context as unknown as Canvas2D, inkPage(page, colour), pixelsPerMm, { families: FAMILIES, pictures });
      const picture = canvas.transferToImageBitmap();
      return transfer({ ok: true, picture, widthMm: page.widthMm, heightMm: page.heightMm }, [picture]);
    } catch (error) {
      return { ok: false, problem: asProblem(error) };
    }
  },
};

expose(engine);

/** The page of a source; the last ones are kept, failed ones are asked for again. */
function pageOf({ url, version }: PageSource): Promise<Page> {
  const key = `${url}\n${version}`;
  const known = pages.get(key);
  if (known) return known;
  const page = fetchPage(url);
  page.catch(() => pages.delete(key));
  pages.set(key, page);
  if (pages.size > KEPT_PAGES) pages.delete(pages.keys().next().value!);
  return page;
}
