import {
  decodePDFRawStream,
  PDFArray,
  PDFDict,
  PDFHexString,
  PDFInvalidObject,
  PDFName,
  PDFRawStream,
  PDFRef,
  PDFStream,
  PDFString,
  type PDFContext,
  type PDFDocument,
  type PDFObject,
} from '@cantoo/pdf-lib';
import type { Affine } from '../geometry/affine';
import { joinBytes } from '../join-bytes';
import { ProblemError } from '../problem';
import { areaOf, type PageArea } from '../read/pdf/open';
import { foreignReference, type ForeignObject, type ForeignObjects } from './foreign';
import type { Deflate } from './part';
import { points } from './syntax';

/** What leads from a page's content back to the rest of its file, or has no meaning outside of it. */
const LEFT_OUT = new Set(['/Parent', '/StructParent', '/StructParents', '/PieceInfo', '/Metadata', '/OPI']);
/** The entries of the form's dictionary. */
const OWN_OF_STREAMS = new Set(['/Length']);
const LINE_FEED = Uint8Array.of(10);
/** What the content of a page may inflate to, bytes: a few hundred kilobytes can become gigabytes. */
const MAX_CONTENT_BYTES = 256e6;

/**
 * A page of a PDF of others as a form that fills the unit square (ISO 32000-2, 8.10): its content as it is, with the
 * fonts, pictures and layers it uses. `source` is what its layers are listed under. Throws where the page has no
 * usable content, a `ProblemError` where its content inflates to more than `maxContentBytes`.
 */
export function embedPage(
  document: PDFDocument,
  number: number,
  source: string,
  key: string,
  deflate: Deflate,
  maxContentBytes = MAX_CONTENT_BYTES,
): ForeignObjects {
  const page = document.getPage(number - 1);
  const taker = new ObjectTaker(document.context, source, layersOff(document));
  const { node } = page;
  const area = areaOf(page);
  const { x, y, width, height } = area;
  const content = contentOf(node.Contents(), deflate, maxContentBytes);
  if (!content) throw inflatesTooMuch(number, source, maxContentBytes);
  const resources = node.Resources();
  const group = node.lookupMaybe(PDFName.of('Group'), PDFDict);
  const { a, b, c, d, e, f } = toUnitSquare(area);
  taker.objects[0] = {
    body:
      `<< /Type /XObject /Subtype /Form /BBox [${[x, y, x + width, y + height].map(points).join(' ')}]` +
      ` /Matrix [${[a, b, c, d, e, f].map((value) => String(value)).join(' ')}]` +
      ` /Resources ${resources ? taker.text(resources) : '<< >>'}` +
      (group ? ` /Group ${taker.text(group)}` : '') +
      content.entries(taker),
    stream: content.bytes,
  };
  taker.takeAll();
  return { key, objects: taker.objects };
}

/** Maps a page's area, turned as it is to be read, to the unit square. */
function toUnitSquare({ x, y, width, height, turn }: PageArea): Affine {
  const [w, h] = [1 / width, 1 / height];
  switch (turn) {
    case 90:
      return { a: 0, b: -w, c: h, d: 0, e: -y * h, f: 1 + x * w };
    case 180:
      return { a: -w, b: 0, c: 0, d: -h, e: 1 + x * w, f: 1 + y * h };
    case 270:
      return { a: 0, b: w, c: -h, d: 0, e: 1 + y * h, f: -x * w };
    default:
      return { a: w, b: 0, c: 0, d: h, e: -x * w, f: -y * h };
  }
}

interface Content {
  bytes: Uint8Array;
  entries(taker: ObjectTaker): string;
}

/**
 * One stream is taken with its filters untouched; several are joined, since a form has only one. Undefined where they
 * inflate to more than so many bytes.
 */
function contentOf(contents: PDFObject | undefined, deflate: Deflate, maxBytes: number): Content | undefined {
  if (contents instanceof PDFRawStream) {
    return { bytes: contents.contents, entries: (taker) => taker.streamEntries(contents) };
  }
  const parts: Uint8Array[] = [];
  let left = maxBytes;
  if (contents instanceof PDFArray) {
    for (let i = 0; i < contents.size(); i++) {
      const part = contents.lookup(i);
      if (!(part instanceof PDFRawStream)) continue;
      // One more than there may be, so that too many are noticed without inflating the rest.
      const bytes = new Uint8Array(decodePDFRawStream(part).getBytes(left + 1));
      left -= bytes.length;
      if (left < 0) return undefined;
      parts.push(bytes);
    }
  }
  // Streams may end inside what the next begins, but never inside a word (ISO 32000-2, 7.8.2).
  const joined = joinBytes(parts.flatMap((part) => [part, LINE_FEED]));
  return { bytes: deflate(joined), entries: () => ' /Filter /FlateDecode' };
}

function inflatesTooMuch(number: number, file: string, maxBytes: number): ProblemError {
  const sentence = `Page ${number} of ${file} inflates to more than ${maxBytes / 1e6} MB; print it to a new PDF and add that file.`;
  return new ProblemError({ code: 'pdf.inflates', sentence, place: { file } });
}

/** Copies objects as text, following references breadth first. */
class ObjectTaker {
  readonly objects: ForeignObject[] = [{ body: '' }];
  private readonly indexOf = new Map<PDFRef, number>();
  private readonly waiting: [index: number, object: PDFObject | undefined][] = [];

  constructor(
    private readonly context: PDFContext,
    private readonly source: string,
    private readonly off: ReadonlySet<PDFRef>,
  ) {}

  takeAll(): void {
    for (let next = this.waiting.shift(); next; next = this.waiting.shift()) {
      const [index, object] = next;
      if (object instanceof PDFRawStream) {
        this.objects[index] = { body: `<<${this.streamEntries(object)}`, stream: object.contents };
      } else this.objects[index] = { body: `${this.text(object)}` };
    }
  }

  /** Entries of a stream's dictionary but its length, the closing bracket left to the writer. */
  streamEntries(stream: PDFRawStream): string {
    return stream.dict
      .entries()
      .filter(([name]) => !OWN_OF_STREAMS.has(name.asString()) && !LEFT_OUT.has(name.asString()))
      .map(([name, value]) => ` ${name.toString()} ${this.text(value)}`)
      .join('');
  }

  text(object: PDFObject | undefined): string {
    if (object === undefined || object instanceof PDFInvalidObject || object instanceof PDFStream) return 'null';
    if (object instanceof PDFRef) return foreignReference(this.index(object));
    if (object instanceof PDFString || object instanceof PDFHexString) return `<${hex(object.asBytes())}>`;
    if (object instanceof PDFArray) {
      return `[${object
        .asArray()
        .map((item) => this.text(item))
        .join(' ')}]`;
    }
    if (object instanceof PDFDict) {
      const entries = object.entries().filter(([name]) => !LEFT_OUT.has(name.asString()));
      return `<< ${entries.map(([name, value]) => `${name.toString()} ${this.text(value)}`).join(' ')} >>`;
    }
    return object.toString();
  }

  private index(reference: PDFRef): number {
    const known = this.indexOf.get(reference);
    if (known !== undefined) return known;
    const object = this.context.lookup(reference);
    const index = this.objects.length;
    this.indexOf.set(reference, index);
    const layer = object instanceof PDFDict ? layerName(object) : undefined;
    if (layer !== undefined) {
      const off = this.off.has(reference) && { off: true };
      this.objects.push({ layer: { source: this.source, name: layer, ...off } });
    } else {
      this.objects.push({ body: '' });
      this.waiting.push([index, object]);
    }
    return index;
  }
}

function layerName(dictionary: PDFDict): string | undefined {
  if (dictionary.lookup(PDFName.of('Type'))?.toString() !== '/OCG') return undefined;
  const name = dictionary.lookup(PDFName.of('Name'));
  return name instanceof PDFString || name instanceof PDFHexString ? name.decodeText() : '';
}

/** Layers that the file shows switched off (ISO 32000-2, 8.11.4.3). */
function layersOff(document: PDFDocument): Set<PDFRef> {
  const off = new Set<PDFRef>();
  const properties = document.catalog.lookup(PDFName.of('OCProperties'));
  if (!(properties instanceof PDFDict)) return off;
  const view = properties.lookup(PDFName.of('D'));
  if (!(view instanceof PDFDict)) return off;
  const list = (dictionary: PDFDict, name: string): PDFRef[] => {
    const found = dictionary.lookup(PDFName.of(name));
    return found instanceof PDFArray ? found.asArray().filter((item) => item instanceof PDFRef) : [];
  };
  if (view.lookup(PDFName.of('BaseState'))?.toString() === '/OFF') {
    for (const layer of list(properties, 'OCGs')) off.add(layer);
    for (const layer of list(view, 'ON')) off.delete(layer);
  }
  for (const layer of list(view, 'OFF')) off.add(layer);
  return off;
}

function hex(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += byte.toString(16).padStart(2, '0');
  return text;
}
