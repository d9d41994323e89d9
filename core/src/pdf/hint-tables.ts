/** Where a run of objects lies in a file that is laid out already, hint stream left out. */
export interface PlacedObjects {
  /** Number of the first, its offset and the length of all of them in bytes. */
  first: number;
  offset: number;
  length: number;
  count: number;
}

/** A page as its hints say: its own objects, and which of the shared ones it uses. */
export interface PageHints {
  objects: PlacedObjects;
  shared: number[];
}

export interface FileHints {
  pages: PageHints[];
  /** Objects of the first page, then those that other pages share: lengths in bytes in turn. */
  sharedLengths: number[];
  ofFirstPage: number;
  /** The objects that other pages share. */
  others: PlacedObjects;
  outline: PlacedObjects;
}

/** The hint stream's bytes and where in it the tables after the first begin (ISO 32000-2, annex F.4). */
export function hintTables(hints: FileHints): { bytes: Uint8Array; shared: number; outline: number } {
  const bits = new BitWriter();
  pageOffsets(bits, hints);
  const shared = bits.align();
  sharedObjects(bits, hints);
  const outline = bits.align();
  const { first, offset, count, length } = hints.outline;
  for (const value of [first, offset, count, length]) bits.put(value, 32);
  return { bytes: bits.taken(), shared, outline };
}

/** F.4.2, tables F.3 and F.4. A page's content is taken to be as long as the page, as other writers do. */
function pageOffsets(bits: BitWriter, { pages }: FileHints): void {
  const counts = pages.map(({ objects }) => objects.count);
  const lengths = pages.map(({ objects }) => objects.length);
  const [fewest, shortest] = [Math.min(...counts), Math.min(...lengths)];
  const [countBits, lengthBits] = [widthOf(counts, fewest), widthOf(lengths, shortest)];
  const sharedBits = widthOf(pages.map(({ shared }) => shared.length));
  const indexBits = widthOf(pages.flatMap(({ shared }) => shared));
  bits.put(fewest, 32);
  bits.put(pages[0]?.objects.offset ?? 0, 32);
  bits.put(countBits, 16);
  bits.put(shortest, 32);
  bits.put(lengthBits, 16);
  bits.put(0, 32);
  bits.put(0, 16);
  bits.put(shortest, 32);
  bits.put(lengthBits, 16);
  bits.put(sharedBits, 16);
  bits.put(indexBits, 16);
  // Where on a page a shared object comes is not said: numerators of no bits over a denominator of four.
  bits.put(0, 16);
  bits.put(4, 16);
  const column = (values: number[], width: number): void => {
    bits.align();
    for (const value of values) bits.put(value, width);
  };
  column(
    counts.map((count) => count - fewest),
    countBits,
  );
  const more = lengths.map((length) => length - shortest);
  column(more, lengthBits);
  column(
    pages.map(({ shared }) => shared.length),
    sharedBits,
  );
  column(
    pages.flatMap(({ shared }) => shared),
    indexBits,
  );
  column([], 0);
  column([], 0);
  column(more, lengthBits);
}

/** F.4.3, tables F.5 and F.6: each object is a group of its own, none with a signature. */
function sharedObjects(bits: BitWriter, { sharedLengths, ofFirstPage, others }: FileHints): void {
  const shortest = Math.min(...sharedLengths);
  const width = widthOf(sharedLengths, shortest);
  bits.put(others.count ? others.first : 0, 32);
  bits.put(others.count ? others.offset : 0, 32);
  bits.put(ofFirstPage, 32);
  bits.put(sharedLengths.length, 32);
  bits.put(0, 16);
  bits.put(shortest, 32);
  bits.put(width, 16);
  for (const length of sharedLengths) bits.put(length - shortest, width);
  bits.align();
  for (let i = 0; i < sharedLengths.length; i++) bits.put(0, 1);
}

/** Bits that the largest of some numbers needs above the least. */
function widthOf(values: readonly number[], least = 0): number {
  const most = Math.max(0, ...values) - least;
  return most > 0 ? Math.floor(Math.log2(most)) + 1 : 0;
}

/** Numbers of any width one after the other, the highest bit first. */
class BitWriter {
  private readonly bytes: number[] = [];
  private free = 0;

  put(value: number, width: number): void {
    for (let bit = width - 1; bit >= 0; bit--) {
      if (this.free === 0) {
        this.bytes.push(0);
        this.free = 8;
      }
      this.free--;
      if (Math.floor(value / 2 ** bit) % 2) this.bytes[this.bytes.length - 1]! |= 1 << this.free;
    }
  }

  /** Goes on at the next byte; returns how many there are. */
  align(): number {
    this.free = 0;
    return this.bytes.length;
  }

  taken(): Uint8Array {
    return Uint8Array.from(this.bytes);
  }
}
