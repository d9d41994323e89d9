import type { Record } from './record';

/** Walks the groups of a record in order: some entities repeat the same codes with changing meaning. */
export class Cursor {
  constructor(
    private readonly record: Record,
    private at: number,
  ) {}

  get inside(): boolean {
    return this.at >= 0 && this.at < this.record.count;
  }

  /** The next number with that code, from here on; the cursor moves behind it. 0 at the end of the record. */
  number(code: number): number {
    if (!this.seek(code)) {
      this.at = this.record.count;
      return 0;
    }
    return this.record.numberAt(this.at++);
  }

  integer(code: number): number {
    return Math.trunc(this.number(code));
  }

  /** The number of the very next group if it has that code, else `standard`. */
  optional(code: number, standard: number): number {
    if (!this.inside || this.record.codes[this.at] !== code) return standard;
    return this.record.numberAt(this.at++, standard);
  }

  /** Moves to the next group with a code; false, without moving, where there is none. */
  seek(code: number): boolean {
    if (!this.inside) return false;
    for (let i = this.at; i < this.record.count; i++) {
      if (this.record.codes[i] !== code) continue;
      this.at = i;
      return true;
    }
    return false;
  }

  /** Moves over at most so many groups of a code. */
  skip(code: number, count: number): void {
    for (let i = 0; i < count && this.inside && this.record.codes[this.at] === code; i++) this.at++;
  }
}
