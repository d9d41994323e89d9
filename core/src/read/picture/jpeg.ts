/** Facts from the header of a JPEG file (ITU-T T.81, annex B; JFIF 1.02; EXIF 2.3 for resolution and orientation). */
export interface JpegFacts {
  width: number;
  height: number;
  /** 1 grey, 3 colour, 4 for print. */
  components: number;
  /** Pixels to the inch; undefined where the file does not say. */
  dpi: number | undefined;
  /** How it is to be turned, as EXIF numbers it: 1 to 8. */
  orientation: number;
  /** True where the four components are stored inverted, as files with an Adobe marker do. */
  inverted: boolean;
}

const SOI = 0xffd8;
const APP0 = 0xe0;
const APP1 = 0xe1;
const APP14 = 0xee;
const START_OF_SCAN = 0xda;
const CM_PER_INCH = 2.54;

/** Reads the header of a JPEG; undefined where it is damaged or of a kind that PDF does not take. */
export function readJpeg(bytes: Uint8Array): JpegFacts | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  if (bytes.length < 4 || view.getUint16(0) !== SOI) return undefined;
  const facts: JpegFacts = { width: 0, height: 0, components: 0, dpi: undefined, orientation: 1, inverted: false };
  for (let at = 2; at + 4 <= bytes.length;) {
    if (bytes[at] !== 0xff) return undefined;
    const marker = bytes[at + 1]!;
    if (marker === 0xff) {
      at++;
      continue;
    }
    const length = view.getUint16(at + 2);
    const end = at + 2 + length;
    if (length < 2 || end > bytes.length) return undefined;
    const text = (from: number, size: number): string => String.fromCharCode(...bytes.subarray(from, from + size));
    if (marker === APP0 && length >= 14 && text(at + 4, 4) === 'JFIF') facts.dpi ??= jfifDpi(view, at + 11);
    else if (marker === APP1 && text(at + 4, 4) === 'Exif') readExif(bytes.subarray(at + 10, end), facts);
    else if (marker === APP14 && text(at + 4, 5) === 'Adobe') facts.inverted = true;
    else if (isFrameHeader(marker)) {
      if (length < 8 || bytes[at + 4] !== 8) return undefined;
      facts.height = view.getUint16(at + 5);
      facts.width = view.getUint16(at + 7);
      facts.components = bytes[at + 9]!;
    } else if (marker === START_OF_SCAN) break;
    at = end;
  }
  const usable = facts.width > 0 && facts.height > 0 && [1, 3, 4].includes(facts.components);
  return usable ? facts : undefined;
}

/** Baseline, extended and progressive frames; lossless and arithmetic ones are not for PDF's DCTDecode. */
function isFrameHeader(marker: number): boolean {
  return marker >= 0xc0 && marker <= 0xc2;
}

function jfifDpi(view: DataView, at: number): number | undefined {
  const density = view.getUint16(at + 1);
  const unit = view.getUint8(at);
  if (density === 0 || unit === 0) return undefined;
  return unit === 1 ? density : density * CM_PER_INCH;
}

/** Orientation and resolution from a TIFF directory inside EXIF (tags 0x112, 0x11A, 0x128). */
function readExif(tiff: Uint8Array, facts: JpegFacts): void {
  if (tiff.length < 14) return;
  const view = new DataView(tiff.buffer, tiff.byteOffset, tiff.length);
  const little = view.getUint16(0) === 0x4949;
  const start = view.getUint32(4, little);
  if (start + 2 > tiff.length) return;
  let resolution = 0;
  let unit = 2;
  for (let i = 0; i < view.getUint16(start, little); i++) {
    const at = start + 2 + 12 * i;
    if (at + 12 > tiff.length) return;
    const tag = view.getUint16(at, little);
    if (tag === 0x112) facts.orientation = Math.min(8, Math.max(1, view.getUint16(at + 8, little)));
    else if (tag === 0x128) unit = view.getUint16(at + 8, little);
    else if (tag === 0x11a) {
      const where = view.getUint32(at + 8, little);
      if (where + 8 <= tiff.length) {
        resolution = view.getUint32(where, little) / (view.getUint32(where + 4, little) || 1);
      }
    }
  }
  if (resolution > 0 && facts.dpi === undefined) facts.dpi = unit === 3 ? resolution * CM_PER_INCH : resolution;
}
