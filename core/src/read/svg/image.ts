import { multiply, type Affine } from '../../geometry/affine';
import type { PictureSource } from '../../drawing/model';
import { readJpeg } from '../picture/jpeg';
import { readPng } from '../picture/png';
import { kindOf } from '../recognise';
import { viewBoxMap } from './transform';

const MAX_PIXELS = 300_000_000;

/** A picture inside the file, with the map of the unit square to user units; or why there is none. */
export function pictureIn(
  href: string,
  box: { x: number; y: number; width: number; height: number },
  preserve: string | undefined,
): { source: PictureSource; map: Affine } | string {
  const data = /^data:image\/[\w.+-]+(?:;[\w=-]+)*;base64,/i.exec(href);
  if (!data) return 'A picture is in another file, which is never fetched; a crossed box stands for it.';
  const bytes = fromBase64(href.slice(data[0].length));
  const kind = bytes && kindOf(bytes);
  const size = kind === 'png' ? readPng(bytes!) : kind === 'jpeg' ? readJpeg(bytes!) : undefined;
  if (!bytes || !size || (kind !== 'png' && kind !== 'jpeg')) {
    return 'A picture inside the file is damaged or neither PNG nor JPEG; a crossed box stands for it.';
  }
  if (size.width * size.height > MAX_PIXELS) {
    return `A picture inside the file says it has ${size.width} × ${size.height} pixels, which is too many; a crossed box stands for it.`;
  }
  const [width, height] = [box.width > 0 ? box.width : size.width, box.height > 0 ? box.height : size.height];
  const fit = viewBoxMap(`0 0 ${size.width} ${size.height}`, preserve, width, height);
  // Pixels run downwards from the top of the unit square.
  const pixels: Affine = { a: size.width, b: 0, c: 0, d: -size.height, e: 0, f: size.height };
  const map = multiply({ a: 1, b: 0, c: 0, d: 1, e: box.x, f: box.y }, multiply(fit, pixels));
  return { source: { kind, bytes, page: 1 }, map };
}

function fromBase64(text: string): Uint8Array | undefined {
  try {
    const binary = atob(text.replace(/\s+/g, ''));
    const bytes = new Uint8Array(binary.length);
    for (let i = 0; i < binary.length; i++) bytes[i] = binary.charCodeAt(i);
    return bytes;
  } catch {
    return undefined;
  }
}
