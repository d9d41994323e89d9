import { isOwnFont, type FontId, type Page } from '@folvex/core';
import { path, ROUTES } from '@folvex/contract';

/** TypeScript's worker library leaves out `add` (CSS Font Loading Level 3 has it in workers too). */
declare const self: { fonts: { add(face: FontFace): void } };

/** Name of the typeface that texts are painted with. */
export function familyOf(font: FontId): string {
  return `page-${font}`;
}

const loading = new Map<FontId, Promise<unknown>>();

/** Loads the typefaces that a page's texts are set in into this worker, each once. `url`: where the page is. */
export async function typefacesOf({ texts }: Page, url: string): Promise<void> {
  const fonts = new Set(texts.map(({ font }) => font));
  await Promise.all([...fonts].map((font) => loading.get(font) ?? load(font, url)));
}

function load(font: FontId, url: string): Promise<unknown> {
  const loaded = new FontFace(familyOf(font), `url(${fileOf(font, url)})`)
    .load()
    .then((ready) => self.fonts.add(ready));
  loading.set(font, loaded);
  loaded.catch(() => loading.delete(font));
  return loaded;
}

/** Where a typeface is: that of an office is below the project or the drawing that the page belongs to. */
function fileOf(font: FontId, url: string): string {
  if (!isOwnFont(font)) return path(ROUTES.font, { font });
  const drawing = DRAWING.exec(url)?.[1];
  if (drawing !== undefined) return path(ROUTES.drawingFont, { drawing, font });
  return path(ROUTES.ownFont, { project: PROJECT.exec(url)?.[1] ?? '', font });
}

/** The project, or the drawing, in the address of a page. */
const PROJECT = new RegExp(`^${ROUTES.project.replace(':project', '([^/]+)')}/`);
const DRAWING = new RegExp(`^${ROUTES.drawing.replace(':drawing', '([^/]+)')}/`);
