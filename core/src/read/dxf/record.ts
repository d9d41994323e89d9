import { EMBEDDED, FIRST_EXTENDED, type GroupReader } from './groups';

const [SUBCLASS, APPLICATION] = [100, 1001];

/** Beyond this, a double no longer resolves a thousandth of a unit reliably: no drawing reaches it on purpose. */
export const MAX_MAGNITUDE = 1e12;

/**
 * The groups of one entity or table entry, from its type up to the next code 0, looked up by code. Extended data (codes
 * from 1000 on) and objects embedded in the entity come in order only: see `extended` and `codes`.
 */
export class Record {
  type = '';
  /** Line of the entity's first group. */
  line = 0;
  count = 0;
  /** True once a number asked for was not finite, or too large to mean a place in a building. */
  bad = false;
  codes = new Int32Array(256);
  private starts = new Int32Array(256);
  private ends = new Int32Array(256);
  /** Values that were read as numbers on the way, NaN for those still to be read. */
  private numbers = new Float64Array(256);
  /** Position of the first group with each code, valid where `seen` holds the number of this record. */
  private readonly first = new Int32Array(FIRST_EXTENDED);
  private readonly seen = new Int32Array(FIRST_EXTENDED);
  private turn = 0;

  constructor(private readonly groups: GroupReader) {}

  /** Reads the record whose code-0 group is the current one; leaves the reader before the next code 0. */
  read(): this {
    const { groups } = this;
    this.type = groups.keyword();
    this.line = groups.line;
    this.count = 0;
    this.bad = false;
    this.turn++;
    for (;;) {
      this.count = groups.gather(this.codes, this.starts, this.ends, this.numbers, this.count);
      if (!groups.full) break;
      this.grow();
    }
    const { codes, count, seen, first, turn } = this;
    for (let i = 0; i < count; i++) {
      const code = codes[i]!;
      if (code < 0 || code >= FIRST_EXTENDED || seen[code] === turn) continue;
      seen[code] = turn;
      first[code] = i;
    }
    return this;
  }

  number(code: number, standard = 0): number {
    const i = this.find(code);
    return i < 0 ? standard : this.numberAt(i, standard);
  }

  /** The number at a position; `standard` where the text is not a finite number. */
  numberAt(i: number, standard = 0): number {
    let value = this.numbers[i]!;
    if (Number.isNaN(value)) value = this.groups.number(this.starts[i], this.ends[i]);
    if (value > -MAX_MAGNITUDE && value < MAX_MAGNITUDE) return value;
    this.bad = true;
    return standard;
  }

  /** Puts another number in the place of one. */
  setNumber(i: number, value: number): void {
    this.numbers[i] = value;
  }

  integer(code: number, standard = 0): number {
    return Math.trunc(this.number(code, standard));
  }

  text(code: number, standard = ''): string {
    const i = this.find(code);
    return i < 0 ? standard : this.textAt(i);
  }

  textAt(i: number): string {
    return this.groups.text(this.starts[i], this.ends[i]);
  }

  /** The bytes of binary data at a position. */
  chunkAt(i: number): Uint8Array {
    return this.groups.chunk(this.starts[i]!, this.ends[i]!);
  }

  has(code: number): boolean {
    return this.find(code) >= 0;
  }

  /** Position of the first group with a code, at or after another position; -1 when there is none. */
  find(code: number, from = 0): number {
    if (from === 0) return this.seen[code] === this.turn ? this.first[code]! : -1;
    const { codes, count } = this;
    for (let i = from; i < count; i++) if (codes[i] === code) return i;
    return -1;
  }

  /** Leaves out the groups of a subclass and all after it, whose codes may mean something else. */
  endBefore(subclass: string): void {
    for (let i = 0; i < this.count; i++) {
      if (this.codes[i] === SUBCLASS && this.textAt(i).trim() === subclass) this.count = i;
    }
  }

  /** How many groups have a code. */
  countOf(code: number): number {
    let found = 0;
    for (let i = 0; i < this.count; i++) if (this.codes[i] === code) found++;
    return found;
  }

  /** A text that many entities share, such as a layer's name. */
  name(code: number, standard = ''): string {
    const i = this.find(code);
    return i < 0 ? standard : this.groups.name(this.starts[i], this.ends[i]);
  }

  /** Index of the layer it lies on (code 8). */
  layer(layers: { layer(name: string): number }): number {
    const i = this.find(8);
    return i < 0 ? layers.layer('0') : this.groups.layer(layers, this.starts[i]!, this.ends[i]!);
  }

  /** Positions of the extended data of an application, its name left out; empty when there is none. */
  extended(application: string): { from: number; to: number } {
    let from = -1;
    for (let i = 0; i < this.count; i++) {
      const code = this.codes[i]!;
      if (from >= 0 && (code === APPLICATION || code < FIRST_EXTENDED || code >= EMBEDDED)) return { from, to: i };
      if (code === APPLICATION && this.textAt(i).trim().toUpperCase() === application.toUpperCase()) from = i + 1;
    }
    return from < 0 ? { from: 0, to: 0 } : { from, to: this.count };
  }

  private grow(): void {
    const bigger = (old: Int32Array): Int32Array<ArrayBuffer> => {
      const next = new Int32Array(old.length * 2);
      next.set(old);
      return next;
    };
    this.codes = bigger(this.codes);
    this.starts = bigger(this.starts);
    this.ends = bigger(this.ends);
    const numbers = new Float64Array(this.numbers.length * 2);
    numbers.set(this.numbers);
    this.numbers = numbers;
  }
}

/** What the readers of texts ask of a record. */
export type TextGroups = Pick<
  Record,
  'number' | 'integer' | 'text' | 'has' | 'count' | 'codes' | 'numberAt' | 'textAt'
>;

/** The groups of an object embedded in an entity (code 101), by their own codes; undefined where it has none. */
export function embeddedGroups(record: Record): TextGroups | undefined {
  const from = record.codes.subarray(0, record.count).findIndex((code) => code >= EMBEDDED);
  if (from < 0) return undefined;
  const at = (code: number): number => record.find(code + EMBEDDED, from);
  const codes = record.codes.slice(from, record.count).map((code) => code - EMBEDDED);
  const number = (code: number, standard = 0): number =>
    at(code) < 0 ? standard : record.numberAt(at(code), standard);
  return {
    codes,
    count: codes.length,
    number,
    integer: (code, standard) => Math.trunc(number(code, standard)),
    text: (code, standard = '') => (at(code) < 0 ? standard : record.textAt(at(code))),
    has: (code) => at(code) >= 0,
    numberAt: (i, standard) => record.numberAt(from + i, standard),
    textAt: (i) => record.textAt(from + i),
  };
}
