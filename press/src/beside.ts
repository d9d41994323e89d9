import { performance } from 'node:perf_hooks';
import sharp from 'sharp';
import {
  DEFAULT_DPI,
  dxfOf,
  isPicture,
  MOST_PICTURE_PIXELS,
  picturePixels,
  ProblemError,
  svgOf,
  type BesideFormat,
  type Outcome,
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
  return pictureBytes(svgOf(sheet.printed, { pictures, pixels, outlines: shippedFonts() }), format, dpi, recipe);
}

/** Paints an SVG, by librsvg, and writes the picture with its resolution. */
async function pictureBytes(
  svg: string,
  format: BesideFormat,
  dpi: number,
  { colour, pictureQuality = JPEG_QUALITY, pictureTone }: Recipe,
): Promise<Uint8Array> {
  const painted = sharp(Buffer.from(svg), { limitInputPixels: MOST_PICTURE_PIXELS, unlimited: true })
    .flatten({ background: '#ffffff' })
    .withDensity(dpi);
  const bilevel = pictureTone === 'bilevel' && format !== 'jpeg';
  const toned = colour === 'full' && !bilevel ? painted : painted.toColourspace('b-w');
  const picture = bilevel ? toned.threshold(HALF) : toned;
  const perMm = { xres: dpi / MM_PER_INCH, yres: dpi / MM_PER_INCH };
  switch (format) {
    case 'png':
      return picture.png(bilevel ? { colours: 2, dither: 0, compressionLevel: 9 } : { compressionLevel: 6 }).toBuffer();
    case 'tiff':
      return picture
        .tiff({
          ...perMm,
          resolutionUnit: 'inch',
          ...(bilevel
            ? { bitdepth: 1, compression: 'ccittfax4' }
            : { compression: 'deflate', predictor: 'horizontal' }),
        })
        .toBuffer();
    default:
      return picture.jpeg({ quality: pictureQuality, chromaSubsampling: '4:4:4' }).toBuffer();
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
