import type { PaperSize } from '../paper/sizes';
import { isExtraPage } from './extra-pages';
import { EXTRA_FORMATS, type ExtraFormat, type FormatOptions } from './formats';
import type { PageOptions, SheetPackage } from './model';

export const DEFAULT_DPI = 300;

/** The formats that a page is written in besides PDF: its own, else the package's. Titles and lists that a package adds have none. */
export function extraFormatsOf(
  pack: Pick<SheetPackage, 'extraFormats' | 'pages' | 'extras'>,
  id: string,
): ExtraFormat[] {
  const extra = pack.extras?.find((one) => one.id === id);
  if (extra?.kind !== 'space' && isExtraPage(pack, id)) return [];
  const { extraFormats = pack.extraFormats?.formats ?? [] }: PageOptions = pack.pages?.[id] ?? {};
  return EXTRA_FORMATS.filter((format) => extraFormats.includes(format));
}

/** How a package has its other formats written. */
export function formatOptions({ extraFormats }: Pick<SheetPackage, 'extraFormats'>): FormatOptions {
  const { formats: _, apart: __, ...options } = extraFormats ?? { formats: [] };
  return options;
}

/** The most pixels that a picture of a sheet may have: an A0 sheet at 300 dots per inch has 140 million pixels. */
export const MAX_PICTURE_PIXELS = 200_000_000;

const MM_PER_INCH = 25.4;

/** Pixels of a picture of a paper at a resolution. */
export function picturePixels({ width, height }: PaperSize, dpi: number): PaperSize {
  const along = (mm: number): number => Math.max(1, Math.round((mm / MM_PER_INCH) * dpi));
  return { width: along(width), height: along(height) };
}

/** Says of a sheet that its picture would be larger than pictures are made; undefined where it would not. */
export function tooLarge(name: string, { width, height }: PaperSize): string | undefined {
  if (width * height <= MAX_PICTURE_PIXELS) return undefined;
  const most = MAX_PICTURE_PIXELS / 1e6;
  return `${name} would be a picture of ${width} × ${height} pixels, more than the ${most} million that pictures may have; choose a lower resolution.`;
}
