import type { JpegFacts } from '../read/picture/jpeg';
import { canPassThrough, type PngFacts } from '../read/picture/png';
import { joinBytes } from '../join-bytes';
import { foreignReference, type ForeignObjects } from './foreign';

const SPACES: Readonly<Record<number, string>> = { 1: '/DeviceGray', 3: '/DeviceRGB', 4: '/DeviceCMYK' };

/** A JPEG file as a PDF picture, its data untouched (ISO 32000-2, 7.4.8). */
export function embedJpeg(bytes: Uint8Array, facts: JpegFacts, key: string): ForeignObjects {
  const { width, height, components, inverted } = facts;
  const decode = components === 4 && inverted ? ' /Decode [1 0 1 0 1 0 1 0]' : '';
  const body =
    `<< /Type /XObject /Subtype /Image /Width ${width} /Height ${height} /ColorSpace ${SPACES[components]}` +
    ` /BitsPerComponent 8${decode} /Filter /DCTDecode`;
  return { key, objects: [{ body, stream: bytes }] };
}

/**
 * A PNG file as a PDF picture, its compressed rows untouched: PDF knows PNG's own filters as predictor 15 (ISO 32000-2,
 * 7.4.4.4). `alpha`, a grey PNG of the same size, says how far it is see-through. Throws for what cannot go through.
 */
export function embedPng(png: PngFacts, alpha: PngFacts | undefined, key: string): ForeignObjects {
  const objects = [pictureOf(png, alpha ? ` /SMask ${foreignReference(1)}` : '')];
  if (alpha) objects.push(pictureOf(alpha, ''));
  return { key, objects };
}

function pictureOf(png: PngFacts, more: string): { body: string; stream: Uint8Array } {
  if (!canPassThrough(png)) throw new Error('a PNG that is interlaced or see-through cannot go through');
  const { width, height, bitDepth, colourType, palette } = png;
  const colours = colourType === 2 ? 3 : 1;
  const hex = [...(palette ?? [])].map((byte) => byte.toString(16).padStart(2, '0')).join('');
  const space =
    colourType === 3
      ? `[/Indexed /DeviceRGB ${Math.floor((palette ?? []).length / 3) - 1} <${hex}>]`
      : colourType === 2
        ? '/DeviceRGB'
        : '/DeviceGray';
  const body =
    `<< /Type /XObject /Subtype /Image /Width ${width} /Height ${height} /ColorSpace ${space}` +
    ` /BitsPerComponent ${bitDepth}${more} /Filter /FlateDecode` +
    ` /DecodeParms << /Predictor 15 /Colors ${colours} /BitsPerComponent ${bitDepth} /Columns ${width} >>`;
  return { body, stream: joinBytes(png.data) };
}
