const MINUS = 45;
const ZERO = 48;
const DOT = 46;
/** Whole numbers below are written with two looks into the table of figures; what is larger is rare. */
const SMALL = 1_000_000;
/** The figures of 0 to 999, three bytes each: three are written for one division. */
const FIGURES = new Uint8Array(3000);
for (let i = 0; i < 1000; i++) {
  FIGURES[i * 3] = ZERO + Math.floor(i / 100);
  FIGURES[i * 3 + 1] = ZERO + (Math.floor(i / 10) % 10);
  FIGURES[i * 3 + 2] = ZERO + (i % 10);
}

/** Writes PDF syntax into a growing byte array. Numbers are written straight as digits, never through strings. */
export class ByteWriter {
  private bytes: Uint8Array<ArrayBuffer>;
  private at = 0;

  constructor(size = 1 << 16) {
    this.bytes = new Uint8Array(size);
  }

  get length(): number {
    return this.at;
  }

  /** The bytes written so far; valid until the next write. */
  taken(): Uint8Array<ArrayBuffer> {
    return this.bytes.subarray(0, this.at);
  }

  /** Characters below 256, one byte each. */
  raw(text: string): this {
    this.room(text.length);
    for (let i = 0; i < text.length; i++) this.bytes[this.at++] = text.charCodeAt(i);
    return this;
  }

  byte(byte: number): void {
    this.room(1);
    this.bytes[this.at++] = byte;
  }

  /** A whole number and a space. */
  integer(value: number): void {
    this.room(13);
    this.digits(value);
    this.bytes[this.at++] = 32;
  }

  /** Two whole numbers and an operator of one letter: the bulk of every content stream. */
  pair(x: number, y: number, operator: number): void {
    this.room(28);
    const { bytes } = this;
    let at = putDigits(bytes, this.at, x);
    bytes[at++] = 32;
    at = putDigits(bytes, at, y);
    bytes[at] = 32;
    bytes[at + 1] = operator;
    bytes[at + 2] = 10;
    this.at = at + 3;
  }

  /** A number with up to `decimals` decimals (trailing zeros left out) and a space. */
  decimal(value: number, decimals: number): this {
    if (Number.isInteger(value)) {
      this.integer(value);
      return this;
    }
    const factor = 10 ** decimals;
    let scaled = Math.round(value * factor);
    this.room(24);
    if (scaled < 0) {
      this.bytes[this.at++] = MINUS;
      scaled = -scaled;
    }
    this.digits(Math.floor(scaled / factor));
    let rest = scaled % factor;
    if (rest > 0) {
      this.bytes[this.at++] = DOT;
      for (let unit = factor / 10; rest > 0; unit /= 10) {
        const digit = Math.floor(rest / unit);
        this.bytes[this.at++] = ZERO + digit;
        rest -= digit * unit;
      }
    }
    this.bytes[this.at++] = 32;
    return this;
  }

  /** A 16-bit number as four hexadecimal digits. */
  hex16(value: number): void {
    this.room(4);
    for (let shift = 12; shift >= 0; shift -= 4) {
      const digit = (value >> shift) & 15;
      this.bytes[this.at++] = digit < 10 ? ZERO + digit : 55 + digit;
    }
  }

  private digits(value: number): void {
    this.at = putDigits(this.bytes, this.at, value);
  }

  private room(more: number): void {
    if (this.at + more <= this.bytes.length) return;
    const bigger = new Uint8Array(Math.max(this.bytes.length * 2, this.at + more));
    bigger.set(this.bytes);
    this.bytes = bigger;
  }
}

/** Writes a whole number as digits; returns where it ends. */
function putDigits(bytes: Uint8Array, start: number, value: number): number {
  let at = start;
  let rest = value;
  if (rest < 0) {
    bytes[at++] = MINUS;
    rest = -rest;
  }
  if (rest >= SMALL) {
    for (const figure of String(rest)) bytes[at++] = figure.charCodeAt(0);
    return at;
  }
  const thousands = (rest / 1000) | 0;
  const leading = thousands || rest;
  if (leading >= 100) bytes[at++] = FIGURES[leading * 3]!;
  if (leading >= 10) bytes[at++] = FIGURES[leading * 3 + 1]!;
  bytes[at++] = FIGURES[leading * 3 + 2]!;
  if (thousands === 0) return at;
  const last = (rest - thousands * 1000) * 3;
  bytes[at] = FIGURES[last]!;
  bytes[at + 1] = FIGURES[last + 1]!;
  bytes[at + 2] = FIGURES[last + 2]!;
  return at + 3;
}

/** Characters below 256, one byte each. */
export function latin1(text: string): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
  return bytes;
}
