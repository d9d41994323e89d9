import { createCanvas, loadImage, type Image, type SKRSContext2D } from '@napi-rs/canvas';
import sharp from 'sharp';
import {
  batchByPen,
  markBoxes,
  markOrder,
  marksIn,
  paintMarks,
  UNITS_PER_MM,
  type Canvas2D,
  type FontSet,
  type GroupCanvas,
  type Page,
  type PaperSize,
} from '@folvex/core';
import type { PictureFile } from './page-pictures';

/** Two tones, greys or colours. */
export type Tones = 'two' | 'grey' | 'colour';

/** Side of the pieces that pictures are painted in, pixels: a canvas has four bytes for each. */
const PIECE = 2048;
/** Lines never get thinner, pixels: they would turn pale, and be gone in two tones. Readers of PDF hold it so too. */
const MIN_LINE_PX = 1;

export function channelsOf(tones: Tones): 1 | 3 {
  return tones === 'colour' ? 3 : 1;
}

/**
 * Paints a page on white, `width` by `height` pixels, by what paints the screen; a crossed box stands for a picture that
 * is undefined. Rows of pixels, a byte a channel.
 */
export async function paintPicture(
  page: Page,
  { width, height }: PaperSize,
  pictures: readonly (Image | undefined)[],
  tones: Tones,
  fonts: FontSet,
): Promise<Buffer> {
  const paint = piecePainter(page, { width, height }, pictures, fonts);
  const channels = channelsOf(tones);
  const rows = Buffer.alloc(width * height * channels);
  for (let top = 0; top < height; top += PIECE) {
    for (let left = 0; left < width; left += PIECE) {
      const size = { width: Math.min(PIECE, width - left), height: Math.min(PIECE, height - top) };
      const raw = { ...size, channels: 4 as const };
      const piece = sharp(paint(left, top, size), { raw }).removeAlpha();
      const bytes = await (tones === 'colour' ? piece : piece.toColourspace('b-w')).raw().toBuffer();
      const length = size.width * channels;
      for (let row = 0; row < size.height; row++) {
        bytes.copy(rows, ((top + row) * width + left) * channels, row * length, (row + 1) * length);
      }
    }
  }
  return rows;
}

/** Paints the part of a page that one tile of its picture shows; four bytes per pixel. */
function piecePainter(
  page: Page,
  { width, height }: PaperSize,
  pictures: readonly (Image | undefined)[],
  fonts: FontSet,
): (left: number, top: number, size: PaperSize) => Buffer {
  // As outlines: the typefaces of a canvas are shared by all threads.
  const letters = { outlines: fonts };
  const order = markOrder(page);
  const boxes = markBoxes(page, order);
  const [across, down] = [width / page.widthMm, height / page.heightMm];
  const scale = { x: across / UNITS_PER_MM, y: down / UNITS_PER_MM };
  return (left, top, size) => {
    const area = {
      ...{ xmin: left / across, xmax: (left + size.width) / across },
      ...{ ymin: page.heightMm - (top + size.height) / down, ymax: page.heightMm - top / down },
    };
    const seen = marksIn(page, area, boxes).filter((mark) => !page.layers[page.layer[mark]!]?.off);
    const list = batchByPen(page, boxes, seen, scale.x, MIN_LINE_PX);
    const canvas = createCanvas(size.width, size.height);
    const context = smooth(canvas.getContext('2d'));
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, size.width, size.height);
    const map = { a: scale.x, b: 0, c: 0, d: -scale.y, e: -left, f: height - top };
    paintMarks(context as unknown as Canvas2D, page, map, {
      groupCanvas,
      letters,
      thinnestPx: MIN_LINE_PX,
      pictures,
      marks: { list, order },
    });
    // Not `canvas.data()`: those bytes go when the canvas does, while they are still read.
    const { data } = context.getImageData(0, 0, size.width, size.height);
    return Buffer.from(data.buffer, data.byteOffset, data.byteLength);
  };
}

/** Pictures that come out smaller are sampled well. */
function smooth(context: SKRSContext2D): SKRSContext2D {
  context.imageSmoothingQuality = 'high';
  return context;
}

function groupCanvas(width: number, height: number): GroupCanvas {
  const image = createCanvas(width, height);
  return { context: smooth(image.getContext('2d')) as unknown as Canvas2D, image };
}

/**
 * A picture as the canvas takes it. JPEGs are decoded here: what a canvas makes of their EXIF and of CMYK is up to its
 * build, and how a picture is turned, the page says.
 */
export async function canvasImage({ type, bytes }: PictureFile): Promise<Image> {
  if (type === 'image/png') return loadImage(bytes);
  const decoded = sharp(bytes, { failOn: 'none', limitInputPixels: false }).toColourspace('srgb');
  return loadImage(await decoded.png({ compressionLevel: 1 }).toBuffer());
}
