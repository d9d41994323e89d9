import type { ProblemCode } from '@folvex/core';
import sharp, { type Sharp } from 'sharp';
import {
  embedJpeg,
  embedPng,
  canPassThrough,
  pictureDrawing,
  readJpeg,
  readPng,
  type FileKind,
  type ForeignObjects,
  type PictureSource,
  type Problem,
  type RasterPage,
  type ReadResult,
} from '@folvex/core';

type PictureKind = Extract<FileKind, 'png' | 'jpeg' | 'tiff'>;

/** Pixels of one picture at most: an A0 sheet scanned at 400 dpi has 248 million. */
const MAX_PIXELS = 300_000_000;
const MAX_PAGES = 2000;
const FORMAT: Readonly<Record<PictureKind, string>> = { png: 'PNG', jpeg: 'JPEG', tiff: 'TIFF' };

// Drawings are read one after the other in each thread; libvips' own cache would only hold memory.
sharp.cache(false);

/** Reads a picture file: each page of it becomes a layout as large as its resolution says. */
export async function readPicture(bytes: Uint8Array, name: string, kind: PictureKind): Promise<ReadResult> {
  const pages = kind === 'tiff' ? await tiffPages(bytes) : onePage(bytes, kind);
  if (!pages || pages.length === 0) {
    const sentence = `${name} cannot be read as a ${FORMAT[kind]} picture; save it again in a picture program and add that file.`;
    return refusal('picture.damaged', sentence, name);
  }
  const huge = pages.find(({ width, height }) => width * height > MAX_PIXELS);
  if (huge) {
    const sentence = `${name} says it has ${huge.width} × ${huge.height} pixels, more than the ${MAX_PIXELS / 1e6} million that are taken; scale it down and add that file.`;
    return refusal('picture.too-large', sentence, name);
  }
  return pictureDrawing(name, FORMAT[kind], pages);
}

function refusal(code: ProblemCode, sentence: string, file: string): { ok: false; problem: Problem } {
  return { ok: false, problem: { code, sentence, place: { file } } };
}

function onePage(bytes: Uint8Array, kind: 'png' | 'jpeg'): RasterPage[] | undefined {
  const source: PictureSource = { kind, bytes, page: 1 };
  const facts = kind === 'png' ? readPng(bytes) : readJpeg(bytes);
  if (!facts) return undefined;
  const orientation = 'orientation' in facts ? facts.orientation : 1;
  return [{ source, width: facts.width, height: facts.height, dpi: facts.dpi, orientation }];
}

async function tiffPages(bytes: Uint8Array): Promise<RasterPage[] | undefined> {
  try {
    const { pages = 1 } = await sharp(bytes, { limitInputPixels: false }).metadata();
    const found: RasterPage[] = [];
    for (let page = 0; page < Math.min(pages, MAX_PAGES); page++) {
      const facts = await sharp(bytes, { page, limitInputPixels: false }).metadata();
      const { width, height, density, orientation = 1 } = facts;
      if (!(width > 0 && height > 0)) return undefined;
      const source: PictureSource = { kind: 'tiff', bytes, page: page + 1 };
      found.push({ source, width, height, dpi: density && density > 1 ? density : undefined, orientation });
    }
    return found;
  } catch {
    return undefined;
  }
}

/** A picture as browsers show it: its own bytes, or those of a PNG made from a page of a TIFF. */
export async function browserPicture({ kind, bytes, page }: PictureSource): Promise<Uint8Array> {
  return kind === 'tiff' ? tiffAsPng(bytes, page) : bytes;
}

/** A picture as objects of a PDF: data that PDF knows goes through untouched, the rest is recoded without loss. */
export async function pictureObjects(source: PictureSource, key: string): Promise<ForeignObjects> {
  const jpeg = source.kind === 'jpeg' ? readJpeg(source.bytes) : undefined;
  if (jpeg) return embedJpeg(source.bytes, jpeg, key);
  const bytes = await browserPicture(source);
  const png = readPng(bytes);
  if (png && canPassThrough(png)) return embedPng(png, undefined, key);
  const colours = await flatPng(bytes);
  const alpha = png?.transparent ? readPng(await input(bytes).extractChannel('alpha').png().toBuffer()) : undefined;
  return embedPng(colours, alpha, key);
}

async function tiffAsPng(bytes: Uint8Array, page: number): Promise<Uint8Array> {
  const picture = sharp(bytes, { page: page - 1, limitInputPixels: MAX_PIXELS, failOn: 'none' });
  const { bitsPerSample, channels } = await picture.metadata();
  // Scans of line work have one bit a pixel; two colours keep them that small.
  const twoColours = bitsPerSample === 1 && channels === 1;
  return picture.png(twoColours ? { colours: 2, dither: 0, compressionLevel: 6 } : { compressionLevel: 6 }).toBuffer();
}

async function flatPng(bytes: Uint8Array): Promise<NonNullable<ReturnType<typeof readPng>>> {
  const flat = readPng(await input(bytes).removeAlpha().toColourspace('srgb').png({ progressive: false }).toBuffer());
  if (!flat) throw new Error('a picture could not be recoded');
  return flat;
}

function input(bytes: Uint8Array): Sharp {
  // What can be decoded of a damaged picture is shown.
  return sharp(bytes, { limitInputPixels: MAX_PIXELS, failOn: 'none' });
}
