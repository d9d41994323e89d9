import { latin1 } from './bytes';
import type { Deflate } from './part';

/** Takes the bytes of a file in order. */
export interface Sink {
  write(bytes: Uint8Array): void;
}

/** The standard security handler of a file, made by the host: its dictionary, and how it enciphers streams. */
export interface Protection {
  /** Body of the encryption dictionary. */
  dictionary: string;
  /** What is written for the bytes of an object's stream. */
  cipher(bytes: Uint8Array, object: number): Uint8Array;
}

export type PdfVersion = '1.4' | '1.7' | '2.0';

export interface FileOptions {
  version: PdfVersion;
  protection?: Protection;
}

/** What the end of a file refers to. */
export interface FileEnd {
  root: number;
  /** Absent in PDF 2.0, where the metadata say all of it. */
  info?: number;
  /** 32 hexadecimal digits. */
  id: string;
  /** Objects of the pages in their order. */
  pages: readonly number[];
}

/** What numbers the objects of a file and writes them. */
export interface ObjectWriter {
  /** A number for an object that is defined later. */
  reserve(): number;
  object(body: string): number;
  define(number: number, body: string): void;
  stream(entries: string, bytes: Uint8Array, deflated: boolean, number?: number): number;
  /** Writes a stream whose dictionary lacks only its length and end. */
  rawStream(open: string, bytes: Uint8Array, number: number): number;
  /** Ends the file. Returns its length in bytes. */
  finish(end: FileEnd): number;
}

/** Objects that are put together into one object stream. */
const PACKED_AT_ONCE = 120;
/** Widths of the fields of a cross-reference stream, bytes: kind, offset or stream, generation or index. */
const FIELDS = [1, 5, 2] as const;

/**
 * The objects of a PDF file, numbered and written as they come. From PDF 1.5 on (ISO 32000-2, 7.5.7 and 7.5.8) those
 * without streams go deflated into object streams, which also makes it unnecessary to encipher strings one by one;
 * before, they stand in the file as they are.
 */
export class FileWriter implements ObjectWriter {
  private readonly places: { offset: number; within?: number }[] = [{ offset: 0 }];
  private readonly packs: boolean;
  private pending: { number: number; body: string }[] = [];
  private position = 0;

  constructor(
    private readonly sink: Sink,
    private readonly deflate: Deflate,
    private readonly options: FileOptions,
  ) {
    this.packs = options.version !== '1.4';
    this.write(`%PDF-${options.version}\n%\u00e2\u00e3\u00cf\u00d3\n`);
  }

  reserve(): number {
    return this.places.push({ offset: 0 }) - 1;
  }

  object(body: string): number {
    const number = this.reserve();
    this.define(number, body);
    return number;
  }

  define(number: number, body: string): void {
    if (!this.packs) return this.plain(number, body);
    this.pending.push({ number, body });
    if (this.pending.length >= PACKED_AT_ONCE) this.pack();
  }

  stream(entries: string, bytes: Uint8Array, deflated: boolean, number = this.reserve()): number {
    const filter = deflated ? ' /Filter /FlateDecode' : '';
    return this.rawStream(`<< ${entries}${filter}`, bytes, number);
  }

  rawStream(open: string, bytes: Uint8Array, number: number): number {
    this.open(number, open, this.options.protection?.cipher(bytes, number) ?? bytes);
    return number;
  }

  finish({ root, info, id }: FileEnd): number {
    this.pack();
    const { protection } = this.options;
    const lock = protection && this.reserve();
    if (protection && lock !== undefined) this.plain(lock, protection.dictionary);
    const entries =
      `/Root ${root} 0 R` +
      (info === undefined ? '' : ` /Info ${info} 0 R`) +
      (lock === undefined ? '' : ` /Encrypt ${lock} 0 R`) +
      ` /ID [<${id}> <${id}>]`;
    const start = this.position;
    if (this.packs) this.crossReferenceStream(entries);
    else this.crossReferenceTable(entries);
    this.write(`startxref\n${start}\n%%EOF\n`);
    return this.position;
  }

  private plain(number: number, body: string): void {
    this.places[number] = { offset: this.position };
    this.write(`${number} 0 obj\n${body}\nendobj\n`);
  }

  private open(number: number, open: string, bytes: Uint8Array): void {
    this.places[number] = { offset: this.position };
    this.write(`${number} 0 obj\n${open} /Length ${bytes.length} >>\nstream\n`);
    this.sink.write(bytes);
    this.position += bytes.length;
    this.write('\nendstream\nendobj\n');
  }

  /** Puts the objects that wait into an object stream. */
  private pack(): void {
    const { pending } = this;
    if (pending.length === 0) return;
    this.pending = [];
    const stream = this.reserve();
    let at = 0;
    const starts = pending.map(({ number, body }, within) => {
      this.places[number] = { offset: stream, within };
      const start = `${number} ${at}`;
      at += body.length + 1;
      return start;
    });
    const head = `${starts.join(' ')}\n`;
    const text = head + pending.map(({ body }) => `${body}\n`).join('');
    this.stream(`/Type /ObjStm /N ${pending.length} /First ${head.length}`, this.deflate(latin1(text)), true, stream);
  }

  private crossReferenceStream(entries: string): void {
    const number = this.reserve();
    this.places[number] = { offset: this.position };
    const [kind, place, last] = FIELDS;
    const width = kind + place + last;
    const table = new Uint8Array(this.places.length * width);
    const put = (at: number, size: number, value: number): void => {
      for (let i = size - 1, left = value; i >= 0; i--, left = Math.floor(left / 256)) table[at + i] = left % 256;
    };
    this.places.forEach(({ offset, within }, i) => {
      const at = i * width;
      put(at, kind, i === 0 ? 0 : within === undefined ? 1 : 2);
      put(at + kind, place, offset);
      put(at + kind + place, last, i === 0 ? 65_535 : (within ?? 0));
    });
    const dictionary = `<< /Type /XRef /Size ${this.places.length} /W [${FIELDS.join(' ')}] ${entries} /Filter /FlateDecode`;
    // Never enciphered: readers need it to find the encryption dictionary.
    this.open(number, dictionary, this.deflate(table));
  }

  private crossReferenceTable(entries: string): void {
    const lines = this.places.slice(1).map(({ offset }) => `${String(offset).padStart(10, '0')} 00000 n \n`);
    this.write(`xref\n0 ${this.places.length}\n0000000000 65535 f \n${lines.join('')}`);
    this.write(`trailer\n<< /Size ${this.places.length} ${entries} >>\n`);
  }

  private write(text: string): void {
    const bytes = latin1(text);
    this.sink.write(bytes);
    this.position += bytes.length;
  }
}
