import { picturePixels, type PaperSize, type PictureSource, type Recipe } from '@folvex/core';
import { damagedPicture } from '../pictures/damaged-picture';
import { pdfPicture } from './pdf-picture';
import { browserPicture } from '../pictures/rasters';
import {
  pictureSettings,
  placedSizes,
  resamplePictures,
  settingsOf,
  type PictureSettings,
} from '../pictures/resample-pictures';
import type { PrintedSheet } from '../sheet/compose';

/** A file that anything can show. */
export interface PictureFile {
  type: 'image/png' | 'image/jpeg';
  bytes: Uint8Array;
}

/**
 * What a page's pictures show, in their order, each taken in by `take`; undefined for those without a size. Pages of PDFs
 * are painted at this many dots per inch, or at as many as their view states. Throws a `ProblemError` that names the file of one that is damaged.
 */
export async function pagePictures<T>(
  { printed, drawings }: PrintedSheet,
  recipe: Recipe,
  dpi: number,
  take: (picture: PictureFile) => T | Promise<T>,
): Promise<(T | undefined)[]> {
  const sizes = placedSizes(printed);
  const found: (T | undefined)[] = [];
  const settings = pictureSettings(recipe);
  for (const [i, picture] of printed.pictures.entries()) {
    const { drawing, index, dpi: most = dpi } = picture;
    const shown = drawings.find(({ key }) => key === drawing);
    const source = shown?.pictures[index];
    if (!shown || !source) throw new Error(`picture ${index} of a drawing is not there`);
    const [width, height] = sizes[i]!;
    try {
      const seen = width > 0 && height > 0;
      const file = seen && (await pictureFile(source, { width, height }, settingsOf(picture, settings), most));
      found.push(file ? await take(file) : undefined);
    } catch {
      throw damagedPicture(source, shown.name);
    }
  }
  return found;
}

async function pictureFile(
  source: PictureSource,
  { width, height }: PaperSize,
  settings: PictureSettings,
  dpi: number,
): Promise<PictureFile> {
  if (source.kind === 'pdf') {
    const pixels = picturePixels({ width, height }, dpi);
    return { type: 'image/png', bytes: await pdfPicture(source.bytes, source.page, pixels.width, pixels.height) };
  }
  const made = await resamplePictures(source, [width, height], settings);
  return { type: made.kind === 'jpeg' ? 'image/jpeg' : 'image/png', bytes: await browserPicture(made) };
}
