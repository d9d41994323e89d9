import type { PDFDocument, PDFObject, PDFRef } from '@cantoo/pdf-lib';
import { joinBytes } from '../join-bytes';
import { latin1 } from '../pdf/bytes';

/** Bytes of an entry of a cross-reference stream: kind, offset, generation. */
const ROW = 7;

/** The file with changed objects added behind it, by a cross-reference of the kind that its last one is (ISO 32000-2, 7.5.6). */
export function withUpdate(
  bytes: Uint8Array,
  { context }: PDFDocument,
  changed: readonly [PDFRef, PDFObject][],
): Uint8Array {
  const start = lastCrossReference(bytes);
  const table = ascii(bytes.subarray(start, start + 4)) === 'xref';
  const pieces: Uint8Array[] = [bytes, latin1('\n')];
  let at = bytes.length + 1;
  const add = (text: string): void => {
    const piece = latin1(text);
    pieces.push(piece);
    at += piece.length;
  };
  const placed = [...changed].sort(([a], [b]) => a.objectNumber - b.objectNumber);
  const offsets = placed.map(([reference, object]) => {
    const offset = at;
    const { objectNumber: number, generationNumber: generation } = reference;
    add(`${number} ${generation} obj\n`);
    const body = new Uint8Array(object.sizeInBytes());
    object.copyBytesInto(body, 0);
    pieces.push(body);
    at += body.length;
    add('\nendobj\n');
    return { number, generation, offset };
  });
  const { Root, Info, ID } = context.trailerInfo;
  const size = context.largestObjectNumber + 1;
  const common = `/Root ${Root!.toString()}${Info ? ` /Info ${Info.toString()}` : ''}${ID ? ` /ID ${ID.toString()}` : ''} /Prev ${start}`;
  const crossReference = at;
  if (table) add(`${tableOf(offsets)}trailer\n<< /Size ${size} ${common} >>\n`);
  else {
    const all = [...offsets, { number: size, generation: 0, offset: crossReference }];
    const rows = rowsOf(all);
    const index = all.map(({ number }) => `${number} 1`).join(' ');
    add(
      `${size} 0 obj\n<< /Type /XRef /Size ${size + 1} /W [1 4 2] /Index [${index}] ${common} /Length ${rows.length} >>\nstream\n`,
    );
    pieces.push(rows);
    add('\nendstream\nendobj\n');
  }
  add(`startxref\n${crossReference}\n%%EOF\n`);
  return joinBytes(pieces);
}

interface PlacedObject {
  number: number;
  generation: number;
  offset: number;
}

function tableOf(objects: readonly PlacedObject[]): string {
  const digits = (value: number, count: number): string => String(value).padStart(count, '0');
  const sections = objects.map(
    ({ number, generation, offset }) => `${number} 1\n${digits(offset, 10)} ${digits(generation, 5)} n \n`,
  );
  return `xref\n${sections.join('')}`;
}

function rowsOf(objects: readonly PlacedObject[]): Uint8Array {
  const rows = new Uint8Array(objects.length * ROW);
  const view = new DataView(rows.buffer);
  objects.forEach(({ generation, offset }, i) => {
    view.setUint8(ROW * i, 1);
    view.setUint32(ROW * i + 1, offset);
    view.setUint16(ROW * i + 5, generation);
  });
  return rows;
}

/** Where the last cross-reference of a file begins. */
function lastCrossReference(bytes: Uint8Array): number {
  const tail = ascii(bytes.subarray(Math.max(0, bytes.length - 2048)));
  const all = [...tail.matchAll(/startxref\s+(\d+)/g)];
  return Number(all.at(-1)?.[1] ?? 0);
}

function ascii(bytes: Uint8Array): string {
  return Array.from(bytes, (byte) => String.fromCharCode(byte)).join('');
}
