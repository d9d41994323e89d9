import { path, ROUTES } from '@folvex/contract';
import { ownFontId } from '@folvex/core';

const shown = new Set<string>();

/** Makes a typeface of a project known to this document; returns the name of its family. `hash`: that of its file. */
export function showOwnTypeface(project: string, hash: string): string {
  const font = ownFontId(hash);
  if (!shown.has(font) && 'fonts' in document) {
    shown.add(font);
    document.fonts.add(new FontFace(font, `url(${path(ROUTES.ownFont, { project, font })})`));
  }
  return font;
}
