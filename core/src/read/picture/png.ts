/** The header of a PNG file (ISO/IEC 15948), and its compressed pixels. */
export interface PngFacts {
  width: number;
  height: number;
  bitDepth: number;
  /** 0 grey, 2 colour, 3 by palette, 4 grey with alpha, 6 colour with alpha. */
  colourType: number;
  interlaced: boolean;
  /** True where some of it may be see-through. */
  transparent: boolean;
  palette: Uint8Array | undefined;
  dpi: number | undefined;
  /** The IDAT chunks, which together are one zlib stream. */
  data: Uint8Array[];
}

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
const CM_PER_INCH = 2.54;

/** Reads the chunks of a PNG; undefined where they are damaged. Pixels are not decompressed. */
export function readPng(bytes: Uint8Array): PngFacts | undefined {
  if (bytes.length < 33 || SIGNATURE.some((byte, i) => bytes[i] !== byte)) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  let facts: PngFacts | undefined;
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    const body = at + 8;
    if (body + length + 4 > bytes.length) break;
    if (type === 'IHDR' && length >= 13) {
      facts = {
        width: view.getUint32(body),
        height: view.getUint32(body + 4),
        bitDepth: bytes[body + 8]!,
        colourType: bytes[body + 9]!,
        interlaced: bytes[body + 12] !== 0,
        transparent: bytes[body + 9]! >= 4,
        palette: undefined,
        dpi: undefined,
        data: [],
      };
    } else if (!facts) return undefined;
    else if (type === 'PLTE') facts.palette = bytes.subarray(body, body + length);
    else if (type === 'tRNS') facts.transparent = true;
    else if (type === 'pHYs' && length >= 9 && bytes[body + 8] === 1) {
      facts.dpi = (view.getUint32(body) / 100) * CM_PER_INCH || undefined;
    } else if (type === 'IDAT') facts.data.push(bytes.subarray(body, body + length));
    else if (type === 'IEND') break;
    at = body + length + 4;
  }
  return facts && facts.width > 0 && facts.height > 0 && facts.data.length > 0 ? facts : undefined;
}

/** True where the pixels can go into a PDF as they are compressed. */
export function canPassThrough({ interlaced, transparent, bitDepth, colourType, palette }: PngFacts): boolean {
  return !interlaced && !transparent && bitDepth <= 8 && (colourType !== 3 || palette !== undefined);
}
