const LF = 10;
const CR = 13;
const SPACE = 32;
const TAB = 9;
const MINUS = 45;
const PLUS = 43;
const DOT = 46;
const ZERO = 48;
const NINE = 57;
/** FNV-1a, 32 bits. */
const FNV_PRIME = 0x01000193;
const CHUNK = 16;
const POWERS = Array.from({ length: 23 }, (_, i) => 10 ** i);

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
  private position: number;
  private start = 0;
  private end = 0;
  private held = false;
  private readonly known = new Map<number, { start: number; end: number; text: string }>();
  private readonly keywords = new Map<string, string>();

  constructor(
    readonly bytes: Uint8Array,
    private readonly decoder: { decode(bytes: Uint8Array): string },
    from = 0,
  ) {
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
    } while (this.code === 999);
    return true;
  }

  /** Makes the next call of `next` deliver the current group again. */
  hold(): void {
    this.held = true;
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

  /** The text of a value that comes again and again (types, layers): one string for all of them. */
  name(start = this.start, end = this.end): string {
    const { bytes } = this;
    let hash = end - start;
    for (let i = start; i < end; i++) hash = Math.imul(hash ^ bytes[i]!, FNV_PRIME);
    const known = this.known.get(hash);
    if (known && sameBytes(bytes, known.start, known.end, start, end)) return known.text;
    const text = this.text(start, end);
    this.known.set(hash, { start, end, text });
    return text;
  }

  /** The value as a keyword of the format: without blanks around, in capitals. */
  keyword(): string {
    const name = this.name();
    let keyword = this.keywords.get(name);
    if (keyword === undefined) this.keywords.set(name, (keyword = name.trim().toUpperCase()));
    return keyword;
  }

  number(start = this.start, end = this.end): number {
    return parseNumber(this.bytes, start, end);
  }

  /** One group: the code's line, then the value's. Written as one piece, since it runs for every line of the file. */
  private step(): boolean {
    const { bytes } = this;
    const length = bytes.length;
    let at = this.position;
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
    while (at < length && bytes[at] !== LF) at++;
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
  if (end - start > CHUNK) return decoder.decode(bytes.subarray(start, end));
  // Short plain texts (handles, names) come by the hundred thousand: for them this is much quicker.
  return String.fromCharCode.apply(null, bytes.subarray(start, end) as unknown as number[]);
}

function sameBytes(bytes: Uint8Array, start: number, end: number, otherStart: number, otherEnd: number): boolean {
  if (end - start !== otherEnd - otherStart) return false;
  for (let i = start, k = otherStart; i < end; i++, k++) if (bytes[i] !== bytes[k]) return false;
  return true;
}

/**
 * A decimal number from bytes, exact: up to 15 significant digits with a power of ten up to 22 are computed directly
 * (both are exact doubles, so that one division rounds correctly), anything else goes through the language's own
 * parser. NaN when it is not a number.
 */
export function parseNumber(bytes: Uint8Array, start: number, end: number): number {
  let at = start;
  while (at < end && (bytes[at] === SPACE || bytes[at] === TAB)) at++;
  const first = at;
  let negative = false;
  if (bytes[at] === MINUS || bytes[at] === PLUS) negative = bytes[at++] === MINUS;
  let mantissa = 0;
  let digits = 0;
  let decimals = 0;
  let seenDot = false;
  for (; at < end; at++) {
    const byte = bytes[at]!;
    if (byte === DOT && !seenDot) {
      seenDot = true;
      continue;
    }
    const digit = byte - 48;
    if (digit < 0 || digit > 9) break;
    mantissa = mantissa * 10 + digit;
    if (mantissa > 0) digits++;
    if (seenDot) decimals++;
  }
  while (at < end && (bytes[at] === SPACE || bytes[at] === TAB)) at++;
  if (at < end || digits > 15 || decimals > 22 || at === first) return slowNumber(bytes, first, end);
  const value = decimals ? mantissa / POWERS[decimals]! : mantissa;
  return negative ? -value : value;
}

function slowNumber(bytes: Uint8Array, start: number, end: number): number {
  const text = String.fromCharCode(...bytes.subarray(start, Math.min(end, start + 64))).trim();
  return text === '' ? NaN : Number(text);
}
