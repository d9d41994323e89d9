import { expose, transfer } from 'comlink';
import {
  FONT_IDS,
  paintPage,
  UNITS_PER_MM,
  unpackPage,
  type Canvas2D,
  type FontId,
  type Page,
  type Problem,
} from '@folvex/core';
import { path, ROUTES, type Refusal } from '@folvex/contract';
import { picturesOf } from './pictures';
import type { PageEngine, PageSource } from './protocol';

/** TypeScript's worker library leaves out `add` (CSS Font Loading Level 3 has it in workers too). */
declare const self: { fonts: { add(face: FontFace): void } };

const KEPT_PAGES = 60;
const FAMILIES: Readonly<Record<FontId, string>> = {
  sans: 'page-sans',
  condensed: 'page-condensed',
  mono: 'page-mono',
  symbols: 'page-symbols',
};

const pages = new Map<string, Promise<Page>>();
let typefaces: Promise<unknown> | undefined;

const engine: PageEngine = {
  async paint(source, widthPx) {
    try {
      typefaces ??= loadTypefaces();
      const [page] = await Promise.all([pageOf(source), typefaces]);
      const pixelsPerMm = widthPx / page.widthMm;
      const canvas = new OffscreenCanvas(widthPx, Math.max(1, Math.round(page.heightMm * pixelsPerMm)));
      const context = canvas.getContext('2d', { alpha: false })!;
      const pictures = await picturesOf(page, pixelsPerMm / UNITS_PER_MM);
      paintPage(context as unknown as Canvas2D, page, pixelsPerMm, FAMILIES, undefined, pictures);
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

async function fetchPage(url: string): Promise<Page> {
  const response = await fetch(url, { cache: 'no-cache' });
  if (!response.ok) throw ((await response.json()) as Refusal).problem;
  return unpackPage(new Uint8Array(await response.arrayBuffer()));
}

async function loadTypefaces(): Promise<void> {
  await Promise.all(
    FONT_IDS.map(async (font) => {
      const face = new FontFace(FAMILIES[font], `url(${path(ROUTES.font, { font })})`);
      self.fonts.add(await face.load());
    }),
  );
}

function asProblem(error: unknown): Problem {
  if (typeof error === 'object' && error !== null && 'sentence' in error) return error as Problem;
  return { code: 'page.picture', sentence: 'The picture could not be fetched; try again in a moment.', place: {} };
}
