import { decodePDFRawStream, PDFContext, PDFName, PDFRawStream } from '@cantoo/pdf-lib';

const SLASH = 0x2f;
const LINE_FEED = 0x0a;
const CARRIAGE_RETURN = 0x0d;
/** Types of streams that are inflated when a PDF is opened (ISO 32000-2, 7.5.7 and 7.5.8). */
const TYPES = ['/ObjStm', '/XRef'];
/** The dictionary is looked for this far around its type, bytes; most have a hundred. */
const MAX_DICTIONARY = 20_000;

/**
 * Whether the streams in which a PDF keeps its objects inflate to more than `maxBytes` together. What cannot be seen from
 * outside does not count: streams of an encrypted PDF, or with their type written in escapes. Whoever opens the file
 * bounds its memory and time as well.
 */
export function objectsInflateBeyond(bytes: Uint8Array, maxBytes: number): boolean {
  let left = maxBytes;
  for (let at = bytes.indexOf(SLASH); at >= 0; at = bytes.indexOf(SLASH, at + 1)) {
    if (!TYPES.some((type) => startsWith(bytes, at, type))) continue;
    const stream = streamAround(bytes, at);
    if (!stream) continue;
    left -= inflatedBytes(stream, left);
    if (left < 0) return true;
  }
  return false;
}

function startsWith(bytes: Uint8Array, at: number, text: string): boolean {
  for (let i = 0; i < text.length; i++) if (bytes[at + i] !== text.charCodeAt(i)) return false;
  return true;
}

/** The stream whose dictionary holds a position, if it has a filter. */
function streamAround(bytes: Uint8Array, at: number): PDFRawStream | undefined {
  const from = Math.max(0, at - MAX_DICTIONARY);
  const around = latin1(bytes.subarray(from, at + MAX_DICTIONARY));
  const keyword = around.indexOf('stream', at - from);
  const end = around.lastIndexOf('>>', keyword);
  if (keyword < 0 || end < at - from) return undefined;
  const filters = filtersOf(around.slice(around.lastIndexOf('obj', at - from), end));
  // Without a filter it is as large as it is in the file.
  if (filters.length === 0) return undefined;
  const start = from + keyword + 'stream'.length;
  const skipped = bytes[start] === CARRIAGE_RETURN ? 2 : bytes[start] === LINE_FEED ? 1 : 0;
  return rawStream(filters, bytes.subarray(start + skipped));
}

function filtersOf(dictionary: string): string[] {
  const [, list = ''] = /\/Filter\s*(\[[^\]]*\]|\/\w+)/.exec(dictionary) ?? [];
  return [...list.matchAll(/\/(\w+)/g)].map(([, name]) => name!);
}

function rawStream(filters: readonly string[], contents: Uint8Array): PDFRawStream {
  const dict = PDFContext.create().obj({ Filter: filters.map((name) => PDFName.of(name)) });
  return PDFRawStream.of(dict, contents);
}

/** How many bytes a stream inflates to; inflating stops one byte above `most`. */
function inflatedBytes(stream: PDFRawStream, most: number): number {
  try {
    return decodePDFRawStream(stream).getBytes(most + 1).length;
  } catch {
    // Damaged or encrypted: reading the file will say so.
    return 0;
  }
}

function latin1(bytes: Uint8Array): string {
  return Array.from(bytes, (byte) => String.fromCharCode(byte)).join('');
}
