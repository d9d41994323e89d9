import sharp from 'sharp';
import { MOST_PICTURE_PIXELS, type BesideFormat, type PaperSize, type Recipe } from '@folvex/core';
import { channelsOf, type Tones } from './paint-picture';

const MM_PER_INCH = 25.4;
const [JPEG_QUALITY, HALF] = [85, 128];

/** Rows of pixels as a picture file that states its resolution. */
export async function encodePicture(
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
      // Code tables made to measure would have all of a picture held a second time: 1.3 GB instead of 0.5 GB for an A1 sheet.
      return drawn
        .jpeg({ quality: recipe.pictureQuality ?? JPEG_QUALITY, chromaSubsampling: '4:4:4', optimiseCoding: false })
        .toBuffer();
  }
}
