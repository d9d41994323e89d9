import { performance } from 'node:perf_hooks';
import sharp from 'sharp';
import {
  DEFAULT_DPI,
  dxfOf,
  isPicture,
  marksIn,
  MOST_PICTURE_PIXELS,
  pickMarks,
  picturePixels,
  ProblemError,
  svgOf,
  UNITS_PER_MM,
  type BesideFormat,
  type Outcome,
  type Page,
  type PaperSize,
  type Problem,
  type Recipe,
  type SvgOptions,
} from '@folvex/core';
import { WholeFile } from './files';
import { shippedFonts } from './fonts';
import { attempt, pictureWish, printedSheet, type PrintedSheet, type SheetTask } from './make-sheet';
import { pdfPicture } from './pdf-picture';
import { showablePicture } from './rasters';
import { placedSizes, refitted } from './refit';

/** One sheet to write in formats beside PDF. */
export interface BesideTask extends SheetTask {
  formats: BesideFormat[];
  /** Dots to the inch of pictures; absent: 300. */
  dpi?: number;
  /** The files are put there. */
  folder: string;
}

export interface BesideFile {
  format: BesideFormat;
  /** Where the finished, synced bytes lie; the caller gives them their place. */
  temporary: string;
  hash: string;
  bytes: number;
  /** The paper that it shows, mm. */
  width: number;
  height: number;
}

export interface MadeBeside {
  files: BesideFile[];
  milliseconds: number;
  warnings: Problem[];
}

const MM_PER_INCH = 25.4;
const [JPEG_QUALITY, HALF] = [85, 128];
/** Side of the pieces that pictures are painted in, pixels. */
const PIECE = 1600;

/** Writes a sheet in formats beside PDF, each a file of its own; composed once for all of them. */
export function makeBeside(task: BesideTask): Promise<Outcome<MadeBeside>> {
  return attempt(task, async () => {
    const start = performance.now();
    const sheet = await printedSheet(task);
    const files: BesideFile[] = [];
    for (const format of task.formats) files.push(await written(sheet, format, task));
    return { files, milliseconds: performance.now() - start, warnings: sheet.warnings };
  });
}

async function written(sheet: PrintedSheet, format: BesideFormat, task: BesideTask): Promise<BesideFile> {
  const bytes = await bytesOf(sheet, format, task);
  const file = new WholeFile(task.folder);
  file.write(bytes);
  const { widthMm: width, heightMm: height } = sheet.printed;
  return { format, hash: file.sync(), temporary: file.temporary, bytes: bytes.length, width, height };
}

async function bytesOf(sheet: PrintedSheet, format: BesideFormat, task: BesideTask): Promise<Uint8Array> {
  const { recipe, dpi = DEFAULT_DPI } = task;
  if (format === 'dxf') return Buffer.from(dxfOf(sheet.printed, shippedFonts()));
  const { number, title } = task.sheet;
  const pictures = await picturesOf(sheet, recipe, isPicture(format) ? dpi : (recipe.pictureDpi ?? dpi));
  if (format === 'svg') {
    const outlines = recipe.text === 'outlines' || recipe.text === 'picture';
    const options: SvgOptions = {
      pictures,
      title: `${number} ${title}`.trim(),
      ...(outlines && { outlines: shippedFonts() }),
    };
    return Buffer.from(svgOf(sheet.printed, options));
  }
  const { widthMm: width, heightMm: height } = sheet.printed;
  const pixels = picturePixels({ width, height }, dpi);
  if (pixels.width * pixels.height > MOST_PICTURE_PIXELS) {
    const sentence = `Sheet ${number || task.sheet.id} would be a picture of ${pixels.width} × ${pixels.height} pixels, more than the ${MOST_PICTURE_PIXELS / 1e6} million that are made; choose fewer dots to the inch.`;
    throw new ProblemError({ code: 'picture.too-large', sentence, place: {} });
  }
  const tones = toneOf(recipe, format);
  return encoded(await painted(sheet.printed, pixels, pictures, tones), pixels, tones, { format, dpi, recipe });
}

/** Two tones, greys or colours. */
type Tones = 'two' | 'grey' | 'colour';

function toneOf({ colour, pictureTone }: Recipe, format: BesideFormat): Tones {
  if (pictureTone === 'bilevel' && format !== 'jpeg') return 'two';
  return colour === 'full' ? 'colour' : 'grey';
}

/**
 * Paints a page, by librsvg, piece by piece: the painter goes through all of an SVG for each piece of a picture, so each
 * piece gets an SVG of its own with what shows there. Rows of pixels, a byte a channel.
 */
async function painted(
  page: Page,
  { width, height }: PaperSize,
  pictures: (string | undefined)[],
  tones: Tones,
): Promise<Buffer> {
  const channels = channelsOf(tones);
  const rows = Buffer.alloc(width * height * channels);
  const [across, down] = [page.widthMm / width, page.heightMm / height];
  for (let y = 0; y < height; y += PIECE) {
    for (let x = 0; x < width; x += PIECE) {
      const pixels = { width: Math.min(PIECE, width - x), height: Math.min(PIECE, height - y) };
      const [left, top] = [x * across, y * down];
      const [right, bottom] = [left + pixels.width * across, top + pixels.height * down];
      const area = { xmin: left, xmax: right, ymin: page.heightMm - bottom, ymax: page.heightMm - top };
      const units = (mm: number): number => mm * UNITS_PER_MM;
      const window = { x: units(left), y: units(top), width: units(right - left), height: units(bottom - top) };
      const part = pickMarks(page, marksIn(page, area));
      const svg = svgOf(part, { pictures, pixels, window, outlines: shippedFonts() });
      const piece = sharp(Buffer.from(svg), { unlimited: true }).flatten({ background: '#ffffff' });
      const toned = tones === 'colour' ? piece.toColourspace('srgb') : piece.toColourspace('b-w');
      const bytes = await toned.raw().toBuffer();
      for (let row = 0; row < pixels.height; row++) {
        const from = row * pixels.width * channels;
        bytes.copy(rows, ((y + row) * width + x) * channels, from, from + pixels.width * channels);
      }
    }
  }
  return rows;
}

function channelsOf(tones: Tones): 1 | 3 {
  return tones === 'colour' ? 3 : 1;
}

/** A picture file with its resolution. */
async function encoded(
  rows: Buffer,
  { width, height }: PaperSize,
  tones: Tones,
  { format, dpi, recipe }: { format: BesideFormat; dpi: number; recipe: Recipe },
): Promise<Uint8Array> {
  const raw = { width, height, channels: channelsOf(tones) };
  const picture = sharp(rows, { raw, limitInputPixels: MOST_PICTURE_PIXELS }).withDensity(dpi);
  const toned = tones === 'colour' ? picture : picture.toColourspace('b-w');
  const bilevel = tones === 'two';
  const drawn = bilevel ? toned.threshold(HALF) : toned;
  const perMm = { xres: dpi / MM_PER_INCH, yres: dpi / MM_PER_INCH };
  switch (format) {
    case 'png':
      return drawn.png(bilevel ? { colours: 2, dither: 0, compressionLevel: 9 } : { compressionLevel: 6 }).toBuffer();
    case 'tiff': {
      const packed = bilevel
        ? { bitdepth: 1 as const, compression: 'ccittfax4' as const }
        : { compression: 'deflate' as const, predictor: 'horizontal' as const };
      return drawn.tiff({ ...perMm, resolutionUnit: 'inch', ...packed }).toBuffer();
    }
    default:
      return drawn.jpeg({ quality: recipe.pictureQuality ?? JPEG_QUALITY, chromaSubsampling: '4:4:4' }).toBuffer();
  }
}

/** What a page's pictures show, as data that stand in the file itself; pages of PDFs are painted. */
async function picturesOf(
  { printed, drawings }: PrintedSheet,
  recipe: Recipe,
  dpi: number,
): Promise<(string | undefined)[]> {
  const sizes = placedSizes(printed);
  const found: (string | undefined)[] = [];
  for (const [i, { drawing, index }] of printed.pictures.entries()) {
    const source = drawings.find(({ key }) => key === drawing)?.pictures[index];
    const [width, height] = sizes[i]!;
    if (!source || !(width > 0 && height > 0)) {
      found.push(undefined);
    } else if (source.kind === 'pdf') {
      const pixels = picturePixels({ width, height }, dpi);
      found.push(dataOf('image/png', await pdfPicture(source.bytes, source.page, pixels.width, pixels.height)));
    } else {
      const made = await refitted(source, [width, height], pictureWish(recipe));
      const bytes = await showablePicture(made);
      found.push(dataOf(made.kind === 'jpeg' ? 'image/jpeg' : 'image/png', bytes));
    }
  }
  return found;
}

function dataOf(type: string, bytes: Uint8Array): string {
  return `data:${type};base64,${Buffer.from(bytes).toString('base64')}`;
}
