import type { PaperSize } from '../paper/sizes';
import { isExtraPage } from './extra-pages';
import type { PageOptions, SheetPackage } from './model';

/** A format that sheets are written in beside PDF, a file a sheet. */
export type BesideFormat = 'dxf' | 'svg' | 'png' | 'tiff' | 'jpeg';

/** What a package writes beside PDF. */
export interface Beside {
  formats: BesideFormat[];
  /** Dots to the inch of pictures, 36 to 1200; absent: 300. */
  dpi?: number;
  /** True where each format has a folder of its own. */
  apart?: true;
}

export const BESIDE_FORMATS: readonly BesideFormat[] = ['dxf', 'svg', 'png', 'tiff', 'jpeg'];
export const DEFAULT_DPI = 300;
/** Names of formats, also of their folders, and how file names end. */
export const FORMAT_NAMES: Readonly<Record<BesideFormat | 'pdf', string>> = {
  ...{ pdf: 'PDF', dxf: 'DXF', svg: 'SVG', png: 'PNG', tiff: 'TIFF', jpeg: 'JPEG' },
};
export const EXTENSIONS: Readonly<Record<BesideFormat | 'pdf', string>> = {
  ...{ pdf: '.pdf', dxf: '.dxf', svg: '.svg', png: '.png', tiff: '.tif', jpeg: '.jpg' },
};

/** The formats that a page is written in beside PDF: its own, else the package's. Titles and lists that a package adds have none. */
export function besideOf(pack: Pick<SheetPackage, 'beside' | 'pages' | 'extras'>, id: string): BesideFormat[] {
  const extra = pack.extras?.find((one) => one.id === id);
  if (extra?.kind !== 'space' && isExtraPage(pack, id)) return [];
  const { beside = pack.beside?.formats ?? [] }: PageOptions = pack.pages?.[id] ?? {};
  return BESIDE_FORMATS.filter((format) => beside.includes(format));
}

/** What a picture of a sheet may have at most: an A0 sheet at 300 dots to the inch has 140 million pixels. */
export const MOST_PICTURE_PIXELS = 200_000_000;

const MM_PER_INCH = 25.4;

/** Pixels of a picture of a paper at a resolution. */
export function picturePixels({ width, height }: PaperSize, dpi: number): PaperSize {
  const along = (mm: number): number => Math.max(1, Math.round((mm / MM_PER_INCH) * dpi));
  return { width: along(width), height: along(height) };
}

/** Says of a sheet that its picture would be larger than pictures are made; undefined where it would not. */
export function tooLarge(name: string, { width, height }: PaperSize): string | undefined {
  if (width * height <= MOST_PICTURE_PIXELS) return undefined;
  const most = MOST_PICTURE_PIXELS / 1e6;
  return `${name} would be a picture of ${width} × ${height} pixels, more than the ${most} million that are made; choose fewer dots to the inch.`;
}

export function isPicture(format: BesideFormat): boolean {
  return format !== 'dxf' && format !== 'svg';
}
