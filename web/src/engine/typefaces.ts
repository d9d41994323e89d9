import type { FontId, Page } from '@folvex/core';
import { path, ROUTES } from '@folvex/contract';

/** TypeScript's worker library leaves out `add` (CSS Font Loading Level 3 has it in workers too). */
declare const self: { fonts: { add(face: FontFace): void } };

/** Names of the typefaces that pages are painted with. */
export const FAMILIES: Readonly<Record<FontId, string>> = {
  sans: 'page-sans',
  condensed: 'page-condensed',
  mono: 'page-mono',
  serif: 'page-serif',
  technical: 'page-technical',
  symbols: 'page-symbols',
};

const loading = new Map<FontId, Promise<unknown>>();

/** Loads the typefaces that a page's texts are set in into this worker, each once. */
export async function typefacesOf({ texts }: Page): Promise<void> {
  const fonts = new Set(texts.map(({ font }) => font));
  await Promise.all([...fonts].map((font) => loading.get(font) ?? load(font)));
}

function load(font: FontId): Promise<unknown> {
  const face = new FontFace(FAMILIES[font], `url(${path(ROUTES.font, { font })})`);
  const loaded = face.load().then((ready) => self.fonts.add(ready));
  loading.set(font, loaded);
  loaded.catch(() => loading.delete(font));
  return loaded;
}
