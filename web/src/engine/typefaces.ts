import { FONT_IDS, type FontId } from '@folvex/core';
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

let loading: Promise<unknown> | undefined;

/** Loads the typefaces into this worker, once. */
export function typefaces(): Promise<unknown> {
  loading ??= Promise.all(
    FONT_IDS.map(async (font) => {
      const face = new FontFace(FAMILIES[font], `url(${path(ROUTES.font, { font })})`);
      self.fonts.add(await face.load());
    }),
  );
  return loading;
}
