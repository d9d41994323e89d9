import {
  PDFArray,
  PDFDict,
  PDFHexString,
  PDFName,
  PDFRawStream,
  PDFRef,
  PDFString,
  type PDFDocument,
  type PDFObject,
} from '@cantoo/pdf-lib';
import { latin1 } from '../pdf/file-writer';
import { textString } from '../pdf/syntax';
import type { Outcome } from '../problem';
import { openPdf } from '../read/pdf/open';

const [S, F, UF, URI] = ['S', 'F', 'UF', 'URI'].map((name) => PDFName.of(name)) as [PDFName, PDFName, PDFName, PDFName];
/** A place in a file that an address may add behind its name. */
const PLACE = /[#?].*$/;
/** Bytes of an entry of a cross-reference stream: kind, offset, generation. */
const ROW = 7;

/** The files that links of a PDF lead to, each once, as they are said there. */
export async function linksIn(bytes: Uint8Array, name: string): Promise<Outcome<string[]>> {
  const opened = await openPdf(bytes, name);
  if (!opened.ok) return opened;
  const { document, wasEncrypted } = opened.value;
  if (wasEncrypted) {
    const sentence = `${name} is protected, and its links cannot be changed; ask for it without protection.`;
    return { ok: false, problem: { code: 'relink.protected', sentence, place: { file: name } } };
  }
  const found = new Set<string>();
  for (const [, object] of document.context.enumerateIndirectObjects()) {
    eachAction(object, (action) => {
      const target = targetOf(action, document);
      if (target !== undefined) found.add(target);
    });
  }
  return { ok: true, value: [...found] };
}

/**
 * A PDF whose links lead elsewhere: `changes` by what they say now. What was there stays byte for byte, and the changed
 * objects are added behind it (ISO 32000-2, 7.5.6). The same bytes where nothing changes.
 */
export async function relinked(
  bytes: Uint8Array,
  name: string,
  changes: ReadonlyMap<string, string>,
): Promise<Outcome<Uint8Array>> {
  const opened = await openPdf(bytes, name);
  if (!opened.ok) return opened;
  const { document } = opened.value;
  const changed: [PDFRef, PDFObject][] = [];
  for (const [reference, object] of document.context.enumerateIndirectObjects()) {
    let any = false;
    eachAction(object, (action) => {
      const to = changes.get(targetOf(action, document) ?? '');
      if (to === undefined) return;
      setTarget(action, to, document);
      any = true;
    });
    if (any) changed.push([reference, object]);
  }
  return { ok: true, value: changed.length === 0 ? bytes : withUpdate(bytes, document, changed) };
}

/** Every action to another file or address within an object; not in those that it refers to. */
function eachAction(object: PDFObject, act: (action: PDFDict) => void): void {
  if (object instanceof PDFRawStream) return;
  if (object instanceof PDFArray) {
    for (const item of object.asArray()) eachAction(item, act);
  } else if (object instanceof PDFDict) {
    const kind = object.get(S)?.toString();
    if (kind === '/GoToR' || kind === '/Launch' || kind === '/URI') act(object);
    for (const value of object.values()) eachAction(value, act);
  }
}

/** The file that an action leads to; undefined for addresses on the web and what names none. */
function targetOf(action: PDFDict, { context }: PDFDocument): string | undefined {
  const said = action.get(S)?.toString() === '/URI' ? action.get(URI) : action.get(F);
  const value = said instanceof PDFRef ? context.lookup(said) : said;
  const inner = value instanceof PDFDict ? (value.get(UF) ?? value.get(F)) : value;
  const text = inner instanceof PDFString || inner instanceof PDFHexString ? inner.decodeText() : undefined;
  if (text === undefined) return undefined;
  if (action.get(S)?.toString() !== '/URI') return text;
  const path = text.replace(PLACE, '');
  if (/^[a-z][a-z0-9+.-]*:/i.test(path) || !/\.pdf$/i.test(path)) return undefined;
  return decoded(path);
}

function setTarget(action: PDFDict, to: string, { context }: PDFDocument): void {
  const said = action.get(F);
  if (action.get(S)?.toString() === '/URI') {
    const old = action.get(URI) as PDFString | PDFHexString;
    const place = PLACE.exec(old.decodeText())?.[0] ?? '';
    action.set(URI, PDFString.of(escaped(encodeURI(to) + place)));
    return;
  }
  const value = said instanceof PDFRef ? context.lookup(said) : said;
  const text = (): PDFString | PDFHexString => {
    const made = textString(to);
    return made.startsWith('(') ? PDFString.of(made.slice(1, -1)) : PDFHexString.of(made.slice(1, -1));
  };
  if (!(value instanceof PDFDict)) return action.set(F, text());
  // A specification that stands by itself may serve several links: this one gets its own.
  const own = said instanceof PDFRef ? value.clone(context) : value;
  own.set(F, text());
  if (own.has(UF)) own.set(UF, text());
  action.set(F, own);
}

/** The file with objects added behind it, by a cross-reference of the kind that its last one is. */
function withUpdate(bytes: Uint8Array, document: PDFDocument, changed: readonly [PDFRef, PDFObject][]): Uint8Array {
  const { context } = document;
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
  if (table) {
    const entries = offsets.map(
      ({ number, generation, offset }) =>
        `${number} 1\n${String(offset).padStart(10, '0')} ${String(generation).padStart(5, '0')} n \n`,
    );
    add(`xref\n${entries.join('')}trailer\n<< /Size ${size} ${common} >>\n`);
  } else {
    const all = [...offsets, { number: size, generation: 0, offset: crossReference }];
    const rows = new Uint8Array(all.length * ROW);
    const view = new DataView(rows.buffer);
    all.forEach(({ generation, offset }, i) => {
      view.setUint8(ROW * i, 1);
      view.setUint32(ROW * i + 1, offset);
      view.setUint16(ROW * i + 5, generation);
    });
    const index = all.map(({ number }) => `${number} 1`).join(' ');
    add(
      `${size} 0 obj\n<< /Type /XRef /Size ${size + 1} /W [1 4 2] /Index [${index}] ${common} /Length ${rows.length} >>\nstream\n`,
    );
    pieces.push(rows);
    at += rows.length;
    add('\nendstream\nendobj\n');
  }
  add(`startxref\n${crossReference}\n%%EOF\n`);
  const whole = new Uint8Array(at);
  let end = 0;
  for (const piece of pieces) {
    whole.set(piece, end);
    end += piece.length;
  }
  return whole;
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

function escaped(text: string): string {
  return text.replace(/[\\()]/g, '\\$&');
}

function decoded(path: string): string {
  try {
    return decodeURI(path);
  } catch {
    return path;
  }
}
