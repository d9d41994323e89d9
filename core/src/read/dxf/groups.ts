const LF = 10;
const CR = 13;
const SPACE = 32;
const TAB = 9;
const MINUS = 45;
const DOT = 46;
const ZERO = 48;
const NINE = 57;
/** How many names are remembered; one that hashes to the same place takes it over. */
const KNOWN = 4096;
/** FNV-1a, 32 bits. */
const FNV_PRIME = 0x01000193;
const CHUNK = 16;
/** Codes whose values are numbers in every entity (DXF reference). */
const [FIRST_NUMBER, LAST_NUMBER] = [10, 79];
const MAX_EXACT = Number.MAX_SAFE_INTEGER;
/** A remark, which means nothing. */
export const COMMENT = 999;
/** What comes after it in a record belongs to an object embedded in the entity. */
export const EMBEDDED_OBJECT = 101;
/** Codes from here on are extended data, which begin with the name of their application. */
export const FIRST_EXTENDED = 1000;
/** Added to the codes of an object embedded in an entity, which are those of the entity over again. */
export const EMBEDDED = 2000;
const POWERS = Float64Array.from({ length: 23 }, (_, i) => 10 ** i);

/** A text met before, with its position. */
interface Name {
  start: number;
  end: number;
  text: string;
  keyword: string | undefined;
  /** Index of the layer of that name, once asked for. */
  layer: number | undefined;
}

/** A place between two groups of a file, to go back to. */
export interface Mark {
  position: number;
  line: number;
  /** The group that was read already and is still to be delivered, as its code and where its value lies. */
  held: { code: number; start: number; end: number } | undefined;
}

/**
 * Reads the groups (code line, value line) of a DXF text straight from its bytes. Values stay where they are until
 * somebody asks for them as text or number; a file of 25 MB is walked without making a string for each line.
 */
export class GroupReader {
  /** Code of the current group. */
  code = -1;
  /** Line number of the current group's value, counted from 1. */
  line = 0;
  /** True once a group code was not a number: the rest of the file is not DXF. */
  broken = false;
  protected position: number;
  protected start = 0;
  protected end = 0;
  private held = false;
  protected embedded = 0;
  /** True after `gather` stopped for want of room. */
  full = false;
  private readonly known: (Name | undefined)[] = new Array<undefined>(KNOWN).fill(undefined);
  /** The file, and a line end behind it: loops stop there without asking each time whether the file goes on. */
  protected readonly bytes: Uint8Array;
  protected readonly length: number;

  constructor(
    file: Uint8Array,
    private readonly decoder: { decode(bytes: Uint8Array): string },
    from = 0,
  ) {
    this.length = file.length;
    this.bytes = new Uint8Array(file.length + 1);
    this.bytes.set(file);
    this.bytes[file.length] = LF;
    this.position = from;
  }

  /** Steps to the next group, comments (code 999) left out. False at the end of the file or where it breaks. */
  next(): boolean {
    if (this.held) {
      this.held = false;
      return true;
    }
    do {
      if (!this.step()) return false;
    } while (this.code === COMMENT);
    return true;
  }

  /** Makes the next call of `next` deliver the current group again. */
  hold(): void {
    this.held = true;
  }

  /** The place where the next call of `next` goes on. */
  mark(): Mark {
    const { position, line, held, code, start, end } = this;
    return { position, line, held: held ? { code, start, end } : undefined };
  }

  goTo({ position, line, held }: Mark): void {
    [this.position, this.line, this.held, this.broken] = [position, line, held !== undefined, false];
    if (held) [this.code, this.start, this.end] = [held.code, held.start, held.end];
  }

  get valueStart(): number {
    return this.start;
  }

  get valueEnd(): number {
    return this.end;
  }

  text(start = this.start, end = this.end): string {
    return decodeText(this.bytes, start, end, this.decoder);
  }

  /** Binary data, which a text file has as hexadecimal digits. */
  chunk(start: number, end: number): Uint8Array {
    const digits = this.text(start, end).trim();
    return Uint8Array.from({ length: digits.length >> 1 }, (_, i) => parseInt(digits.slice(2 * i, 2 * i + 2), 16));
  }

  /** The text of a value that comes again and again (types, layers): one string for all of them. */
  name(start = this.start, end = this.end): string {
    return this.nameAt(start, end).text;
  }

  /** The value as a keyword of the format: without blanks around, in capitals. */
  keyword(): string {
    const name = this.nameAt(this.start, this.end);
    return (name.keyword ??= name.text.trim().toUpperCase());
  }

  /** Index of the layer that a value names, looked up once for each name. */
  layer(layers: { layer(name: string): number }, start: number, end: number): number {
    const name = this.nameAt(start, end);
    return (name.layer ??= layers.layer(name.text));
  }

  private nameAt(start: number, end: number): Name {
    const { bytes } = this;
    let hash = end - start;
    for (let i = start; i < end; i++) hash = Math.imul(hash ^ bytes[i]!, FNV_PRIME);
    const slot = (hash ^ (hash >>> 15)) & (KNOWN - 1);
    const known = this.known[slot];
    if (known && sameBytes(bytes, known.start, known.end, start, end)) return known;
    return (this.known[slot] = { start, end, text: this.text(start, end), keyword: undefined, layer: undefined });
  }

  number(start = this.start, end = this.end): number {
    return parseNumber(this.bytes, start, end);
  }

  /**
   * Gathers the groups after the current one up to the next code 0, which stays to be delivered by `next`, from place
   * `count` on; returns how many there are then. All from code 101 (an embedded object) on have `EMBEDDED` added to
   * their codes. What is always a number by its code is turned into `numbers` on the way, NaN where that takes more than
   * plain digits, and for all others. When the arrays are full it stops; the caller makes them larger and asks again. In one piece and
   * with its state in local variables, since most of a file's lines go through here.
   */
  gather(codes: Int32Array, starts: Int32Array, ends: Int32Array, numbers: Float64Array, count: number): number {
    const { bytes, length } = this;
    const room = codes.length;
    let at = this.position;
    let lines = 0;
    let { embedded } = this;
    this.full = false;
    for (;;) {
      if (count === room) {
        this.full = true;
        break;
      }
      if (at >= length) break;
      let byte = bytes[at]!;
      while (byte === SPACE || byte === TAB) byte = bytes[++at]!;
      const negative = byte === MINUS;
      if (negative) byte = bytes[++at]!;
      const first = at;
      let code = 0;
      while (byte >= ZERO && byte <= NINE) {
        code = code * 10 + byte - ZERO;
        byte = bytes[++at]!;
      }
      const digits = at - first;
      while (byte === CR || byte === SPACE || byte === TAB) byte = bytes[++at]!;
      if (digits === 0 || digits > 4 || at >= length || byte !== LF) {
        this.broken = at < length;
        lines++;
        // The rest is never reached: `next` stops here again.
        at = first - (negative ? 1 : 0);
        break;
      }
      const start = ++at;
      if (code >= FIRST_NUMBER && code <= LAST_NUMBER) {
        byte = bytes[at]!;
        while (byte === SPACE) byte = bytes[++at]!;
        const below = byte === MINUS;
        if (below) byte = bytes[++at]!;
        const begin = at;
        let whole = 0;
        while (byte >= ZERO && byte <= NINE) {
          whole = (whole * 10 + byte - ZERO) | 0;
          byte = bytes[++at]!;
        }
        const wholes = at - begin;
        let part = 0;
        let decimals = 0;
        if (byte === DOT) {
          byte = bytes[++at]!;
          const from = at;
          while (byte >= ZERO && byte <= NINE) {
            part = (part * 10 + byte - ZERO) | 0;
            byte = bytes[++at]!;
          }
          decimals = at - from;
        }
        const ends = byte === LF || (byte === CR && bytes[at + 1] === LF);
        if (ends && wholes <= 9 && decimals <= 6 && wholes + decimals > 0) {
          // Both parts fit 32 bits and their sum is an exact double, so that one division rounds correctly.
          const value = part === 0 ? whole : (whole * POWERS[decimals]! + part) / POWERS[decimals]!;
          numbers[count] = below ? -value : value;
        } else numbers[count] = plainNumber(bytes, below ? begin - 1 : begin);
      } else numbers[count] = NaN;
      while (bytes[at] !== LF) at++;
      const end = at > start && bytes[at - 1] === CR ? at - 1 : at;
      // A code with nothing after it at the end of the file: cut off.
      if (at >= length && end === start) break;
      at++;
      lines += 2;
      if (code === 0) {
        this.code = negative ? -0 : 0;
        this.start = start;
        this.end = end;
        this.held = true;
        break;
      }
      if (code === COMMENT) continue;
      if (negative) code = -code;
      else if (code === EMBEDDED_OBJECT) embedded = EMBEDDED;
      codes[count] = code < FIRST_EXTENDED ? code + embedded : code;
      starts[count] = start;
      ends[count++] = end;
    }
    this.position = at;
    this.line += lines;
    this.embedded = this.full ? embedded : 0;
    return count;
  }

  /** One group: the code's line, then the value's. Written as one piece, since it runs for every line of the file. */
  protected step(): boolean {
    const { bytes, length } = this;
    let at = this.position;
    if (at >= length) return false;
    let byte = bytes[at]!;
    while (byte === SPACE || byte === TAB) byte = bytes[++at]!;
    const negative = byte === MINUS;
    if (negative) byte = bytes[++at]!;
    const first = at;
    let value = 0;
    while (byte >= ZERO && byte <= NINE) {
      value = value * 10 + byte - ZERO;
      byte = bytes[++at]!;
    }
    const digits = at - first;
    while (byte === CR || byte === SPACE || byte === TAB) byte = bytes[++at]!;
    if (digits === 0 || digits > 4 || at >= length || byte !== LF) {
      this.broken = at < length;
      this.line++;
      return false;
    }
    this.code = negative ? -value : value;
    const start = ++at;
    while (bytes[at] !== LF) at++;
    this.position = at + 1;
    this.start = start;
    this.end = at > start && bytes[at - 1] === CR ? at - 1 : at;
    this.line += 2;
    // A code with nothing after it at the end of the file: cut off.
    return at < length || this.end > start;
  }
}

function decodeText(
  bytes: Uint8Array,
  start: number,
  end: number,
  decoder: { decode(bytes: Uint8Array): string },
): string {
  for (let i = start; i < end; i++) if (bytes[i]! > 126) return decoder.decode(bytes.subarray(start, end));
  const length = end - start;
  if (length > CHUNK) return decoder.decode(bytes.subarray(start, end));
  // Short plain texts (handles, names) come by the hundred thousand: without a view of the bytes for each, and in one
  // call, it is much quicker.
  if (length <= 8) return fewCharacters(bytes, start, length);
  return String.fromCharCode.apply(null, bytes.subarray(start, end) as unknown as number[]);
}

/** Up to eight plain characters. */
function fewCharacters(bytes: Uint8Array, at: number, length: number): string {
  const { fromCharCode } = String;
  const [a, b, c, d] = [bytes[at]!, bytes[at + 1]!, bytes[at + 2]!, bytes[at + 3]!];
  switch (length) {
    case 0:
      return '';
    case 1:
      return fromCharCode(a);
    case 2:
      return fromCharCode(a, b);
    case 3:
      return fromCharCode(a, b, c);
    case 4:
      return fromCharCode(a, b, c, d);
    case 5:
      return fromCharCode(a, b, c, d, bytes[at + 4]!);
    case 6:
      return fromCharCode(a, b, c, d, bytes[at + 4]!, bytes[at + 5]!);
    case 7:
      return fromCharCode(a, b, c, d, bytes[at + 4]!, bytes[at + 5]!, bytes[at + 6]!);
    default:
      return fromCharCode(a, b, c, d, bytes[at + 4]!, bytes[at + 5]!, bytes[at + 6]!, bytes[at + 7]!);
  }
}

function sameBytes(bytes: Uint8Array, start: number, end: number, otherStart: number, otherEnd: number): boolean {
  if (end - start !== otherEnd - otherStart) return false;
  for (let i = start, k = otherStart; i < end; i++, k++) if (bytes[i] !== bytes[k]) return false;
  return true;
}

/** Where `plainNumber` stopped: a second result, without an object for each number. */
let stop = 0;

/**
 * A decimal number written in plain digits up to the end of its line, exact: a whole number and a power of ten up to 22
 * are exact doubles, so that one division rounds correctly. NaN for anything else.
 */
function plainNumber(bytes: Uint8Array, start: number): number {
  let at = start;
  let byte = bytes[at]!;
  const negative = byte === MINUS;
  if (negative) byte = bytes[++at]!;
  const first = at;
  let mantissa = 0;
  let dot = -1;
  for (;;) {
    if (byte >= ZERO && byte <= NINE) mantissa = mantissa * 10 + byte - ZERO;
    else if (byte === DOT && dot < 0) dot = at;
    else break;
    byte = bytes[++at]!;
  }
  stop = at;
  const ends = byte === LF || byte === undefined || (byte === CR && bytes[at + 1] === LF);
  const decimals = dot < 0 ? 0 : at - dot - 1;
  const digits = dot < 0 ? at - first : at - first - 1;
  if (!ends || digits === 0 || mantissa > MAX_EXACT || decimals >= POWERS.length) return NaN;
  const value = decimals ? mantissa / POWERS[decimals]! : mantissa;
  return negative ? -value : value;
}

/** A decimal number from bytes; what is not written in plain digits goes through the language's own parser. NaN when it is none. */
export function parseNumber(bytes: Uint8Array, start: number, end: number): number {
  let at = start;
  while (at < end && (bytes[at] === SPACE || bytes[at] === TAB)) at++;
  const value = plainNumber(bytes, at);
  return stop === end && !Number.isNaN(value) ? value : slowNumber(bytes, at, end);
}

function slowNumber(bytes: Uint8Array, start: number, end: number): number {
  const text = String.fromCharCode(...bytes.subarray(start, Math.min(end, start + 64))).trim();
  return text === '' ? NaN : Number(text);
}
