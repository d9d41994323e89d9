import sharp from 'sharp';
import {
  readJpeg,
  readPng,
  type ColourMode,
  type Drawing,
  type Page,
  type PagePicture,
  type PictureFacts,
  type PictureSource,
  type Recipe,
} from '@folvex/core';
import { browserPicture } from './rasters';

/** How pictures go into a file. */
export interface PictureSettings {
  /** Dots to the inch on paper at most; absent: as many as they have. */
  dpi?: number;
  /** Quality of JPEG, 1 to 100; absent: without loss, or as the file came. */
  quality?: number;
  /** Greys and all black print pictures in greys. */
  colour: ColourMode;
  /** In black and white only, a bit a pixel. */
  bilevel?: true;
}

/** How a recipe wants pictures. */
export function pictureSettings({ colour, pictureDpi, pictureQuality, pictureTone }: Recipe): PictureSettings {
  return {
    colour,
    ...(pictureTone && { bilevel: true }),
    ...(pictureDpi !== undefined && { dpi: pictureDpi }),
    ...(pictureQuality !== undefined && { quality: pictureQuality }),
  };
}

/** The settings for a picture of a page: its own highest resolution goes before that of the recipe. */
export function settingsOf({ dpi }: PagePicture, settings: PictureSettings): PictureSettings {
  return dpi === undefined ? settings : { ...settings, dpi };
}

const MM_PER_INCH = 25.4;
/** So little above the wanted resolution is left as it is: sampling anew would only blur it. */
const TOLERANCE = 1.1;
/** Lighter than this is white in black and white. */
const HALF = 128;
const MAX_PIXELS = 300_000_000;

/** The largest size that each picture of a page is placed at, mm, along its own axes. */
export function placedSizes(page: Page): [width: number, height: number][] {
  return page.pictures.map((_, i) => {
    const placed = page.placed.filter(({ picture }) => picture === i);
    const longest = (side: (one: (typeof placed)[number]) => number): number => Math.max(0, ...placed.map(side)) / 100;
    return [longest(({ a, b }) => Math.hypot(a, b)), longest(({ c, d }) => Math.hypot(c, d))];
  });
}

/** Size and resolution of each picture of a page, as they would go into a file untouched; placed pages are not pictures. */
export function pictureFacts(page: Page, drawings: readonly Drawing[]): PictureFacts[] {
  const sizes = placedSizes(page);
  return page.pictures.flatMap(({ drawing, index, dpi: limit }, i) => {
    const source = drawings.find(({ key }) => key === drawing)?.pictures[index];
    const facts =
      source?.kind === 'jpeg' ? readJpeg(source.bytes) : source?.kind === 'png' ? readPng(source.bytes) : undefined;
    if (!source || !facts) return [];
    const [wide] = sizes[i]!;
    if (!(wide > 0)) return [];
    const dpi = facts.width / (wide / MM_PER_INCH);
    const key = [drawing, index, limit ?? []].flat().join(' ');
    return [{ key, bytes: source.bytes.length, dpi, ...(limit !== undefined && { limit }) }];
  });
}

/** True where no setting would change a picture. */
export function isUnchanged({ dpi, quality, colour, bilevel }: PictureSettings): boolean {
  return dpi === undefined && quality === undefined && colour === 'full' && !bilevel;
}

/**
 * A picture as a recipe wishes it, for a size on paper in mm; the same where nothing changes. Sampled down only, never
 * up. What is see-through stays so, and is then kept without loss.
 */
export async function resamplePictures(
  source: PictureSource,
  [widthMm, heightMm]: [number, number],
  { dpi, quality, colour, bilevel }: PictureSettings,
): Promise<PictureSource> {
  const bytes = await browserPicture(source);
  const facts = source.kind === 'jpeg' ? readJpeg(bytes) : readPng(bytes);
  if (!facts || !(widthMm > 0 && heightMm > 0)) return source;
  const most = (mm: number): number => Math.max(1, Math.round((mm / MM_PER_INCH) * (dpi ?? Infinity)));
  const shrink = Math.max(1, Math.min(facts.width / most(widthMm), facts.height / most(heightMm)));
  const grey = colour !== 'full';
  const smaller = shrink > TOLERANCE;
  const transparent = 'transparent' in facts && facts.transparent;
  const asJpeg = !transparent && !bilevel && (quality !== undefined || source.kind === 'jpeg');
  if (!smaller && !grey && !bilevel && (source.kind === 'jpeg' || !asJpeg)) return source;
  let picture = sharp(bytes, { limitInputPixels: MAX_PIXELS, failOn: 'none' });
  if (smaller) {
    const [width, height] = [facts.width / shrink, facts.height / shrink].map((side) => Math.max(1, Math.round(side)));
    picture = picture.resize(width!, height!, { fit: 'fill', kernel: 'lanczos3' });
  }
  // Luminance as elsewhere: libvips' grey has the same weights on linear light.
  if (grey) picture = picture.toColourspace('b-w');
  if (bilevel) {
    // Transparent areas show the paper: white.
    const white = picture.flatten({ background: '#ffffff' }).toColourspace('b-w').threshold(HALF);
    const png = await white.png({ colours: 2, dither: 0, compressionLevel: 9 }).toBuffer();
    return { kind: 'png', bytes: new Uint8Array(png), page: 1 };
  }
  const made = await (
    asJpeg ? picture.jpeg({ quality: quality ?? 85 }) : picture.png({ compressionLevel: 6 })
  ).toBuffer();
  return { kind: asJpeg ? 'jpeg' : 'png', bytes: new Uint8Array(made), page: 1 };
}
