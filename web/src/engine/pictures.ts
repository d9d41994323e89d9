import type { Page, PagePicture } from '@folvex/core';
import { path, ROUTES } from '@folvex/contract';
import { paintPdfPage } from './pdf-pages';

/** Pictures larger than this on the screen are painted smaller and enlarged. */
const MAX_PIXELS = 24e6;
const MAX_CACHED = 40;

const kept = new Map<string, Promise<ImageBitmap | undefined>>();

/**
 * What the canvas can draw of each picture of a page, painted `pixelsPerUnit` device pixels to a page unit. One that
 * cannot be had is undefined: a crossed box stands for it.
 */
export function picturesOf(page: Page, pixelsPerUnit: number): Promise<(ImageBitmap | undefined)[]> {
  return Promise.all(
    page.pictures.map((picture, i) => {
      const widest = page.placed
        .filter((placed) => placed.picture === i)
        .reduce((most, { a, b, c, d }) => Math.max(most, Math.hypot(a, b), Math.hypot(c, d)), 0);
      // Sizes in steps of two to the half: zooming a little asks for nothing new.
      const side = 2 ** (Math.ceil(2 * Math.log2(Math.max(16, widest * pixelsPerUnit))) / 2);
      return bitmapOf(picture, Math.min(side, Math.sqrt(MAX_PIXELS)));
    }),
  );
}

function bitmapOf(picture: PagePicture, side: number): Promise<ImageBitmap | undefined> {
  const url = path(ROUTES.picture, { content: picture.drawing, index: picture.kind === 'pdf' ? 0 : picture.index });
  const key = picture.kind === 'pdf' ? `${url} ${picture.page} ${Math.round(side)}` : url;
  const known = kept.get(key);
  if (known) return known;
  const bitmap = (picture.kind === 'pdf' ? paintPdfPage(url, picture.page, side) : fetched(url)).catch(() => {
    kept.delete(key);
    return undefined;
  });
  kept.set(key, bitmap);
  if (kept.size > MAX_CACHED) kept.delete(kept.keys().next().value!);
  return bitmap;
}

async function fetched(url: string): Promise<ImageBitmap> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`picture ${response.status}`);
  // Turning is the page's own doing: browsers must not turn by EXIF as well.
  return createImageBitmap(await response.blob(), { imageOrientation: 'none' });
}
