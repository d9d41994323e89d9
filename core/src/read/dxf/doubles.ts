const CHUNK = 1 << 16;

/** Hands out small arrays of numbers from large pieces of memory: a piece of its own for each would cost far more. */
export class Doubles {
  private chunk = new Float64Array(0);
  private used = 0;

  /** So many zeros. */
  take(count: number): Float64Array {
    if (count > CHUNK / 8) return new Float64Array(count);
    if (this.used + count > this.chunk.length) {
      this.chunk = new Float64Array(CHUNK);
      this.used = 0;
    }
    return this.chunk.subarray(this.used, (this.used += count));
  }
}
