const MINUS = 45;
const ZERO = 48;
const DOT = 46;

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
    this.digits(x);
    bytes[this.at++] = 32;
    this.digits(y);
    bytes[this.at++] = 32;
    bytes[this.at++] = operator;
    bytes[this.at++] = 10;
  }

  /** A number with up to `decimals` decimals (trailing zeros left out) and a space. */
  decimal(value: number, decimals: number): this {
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
    const { bytes } = this;
    let rest = value;
    if (rest < 0) {
      bytes[this.at++] = MINUS;
      rest = -rest;
    }
    let end =
      this.at +
      (rest < 10 ? 1 : rest < 100 ? 2 : rest < 1000 ? 3 : rest < 10000 ? 4 : rest < 100000 ? 5 : digitCount(rest));
    this.at = end;
    do {
      const next = Math.floor(rest / 10);
      bytes[--end] = ZERO + (rest - next * 10);
      rest = next;
    } while (rest > 0);
  }

  private room(more: number): void {
    if (this.at + more <= this.bytes.length) return;
    const bigger = new Uint8Array(Math.max(this.bytes.length * 2, this.at + more));
    bigger.set(this.bytes);
    this.bytes = bigger;
  }
}

function digitCount(value: number): number {
  let count = 6;
  for (let limit = 1_000_000; value >= limit; limit *= 10) count++;
  return count;
}

/** Characters below 256, one byte each. */
export function latin1(text: string): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
  return bytes;
}

/** Pieces one after the other. */
export function joined(pieces: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
