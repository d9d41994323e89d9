const LF = 10;
const CR = 13;
const SPACE = 32;
const TAB = 9;
const MINUS = 45;
const PLUS = 43;
const DOT = 46;
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
      if (!this.readCode() || !this.readValue()) return false;
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

  number(start = this.start, end = this.end): number {
    return parseNumber(this.bytes, start, end);
  }

  private readCode(): boolean {
    const { bytes } = this;
    const length = bytes.length;
    let at = this.position;
    while (at < length && (bytes[at] === SPACE || bytes[at] === TAB)) at++;
    let value = 0;
    let digits = 0;
    let negative = false;
    if (bytes[at] === MINUS) {
      negative = true;
      at++;
    }
    for (; at < length; at++, digits++) {
      const digit = bytes[at]! - 48;
      if (digit < 0 || digit > 9) break;
      value = value * 10 + digit;
    }
    while (at < length && (bytes[at] === SPACE || bytes[at] === CR || bytes[at] === TAB)) at++;
    if (digits === 0 || digits > 4 || (at < length && bytes[at] !== LF)) {
      this.broken = at < length;
      this.line++;
      return false;
    }
    this.position = at + 1;
    this.code = negative ? -value : value;
    return at < length;
  }

  private readValue(): boolean {
    const { bytes } = this;
    const length = bytes.length;
    let at = this.position;
    this.start = at;
    while (at < length && bytes[at] !== LF) at++;
    this.position = at + 1;
    this.end = at > this.start && bytes[at - 1] === CR ? at - 1 : at;
    this.line += 2;
    // A code with nothing after it at the end of the file: cut off.
    return at < length || this.end > this.start;
  }
}

function decodeText(
  bytes: Uint8Array,
  start: number,
  end: number,
  decoder: { decode(bytes: Uint8Array): string },
): string {
  let plain = end - start < 64;
  for (let i = start; plain && i < end; i++) if (bytes[i]! > 126) plain = false;
  if (!plain) return decoder.decode(bytes.subarray(start, end));
  let text = '';
  for (let i = start; i < end; i++) text += String.fromCharCode(bytes[i]!);
  return text;
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
