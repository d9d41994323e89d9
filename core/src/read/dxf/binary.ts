import { COMMENT, EMBEDDED, EMBEDDED_OBJECT, FIRST_EXTENDED, GroupReader } from './groups';

/** What a binary DXF begins with, as the format prescribes it. */
export const BINARY_SENTINEL = 'AutoCAD Binary DXF';

const SENTINEL_LENGTH = 22;
const LONG_CODE = 255;

type ValueKind = 'text' | 'double' | 'int16' | 'int32' | 'int64' | 'byte' | 'chunk';

/** Kinds of values by ranges of group codes (DXF reference, group code value types). */
const KINDS: readonly [upTo: number, kind: ValueKind][] = [
  [9, 'text'],
  [59, 'double'],
  [79, 'int16'],
  [99, 'int32'],
  [109, 'text'],
  [149, 'double'],
  [169, 'int64'],
  [179, 'int16'],
  [239, 'double'],
  [289, 'int16'],
  [299, 'byte'],
  [309, 'text'],
  [319, 'chunk'],
  [369, 'text'],
  [389, 'int16'],
  [399, 'text'],
  [409, 'int16'],
  [419, 'text'],
  [429, 'int32'],
  [439, 'text'],
  [459, 'int32'],
  [469, 'double'],
  [1003, 'text'],
  [1004, 'chunk'],
  [1009, 'text'],
  [1059, 'double'],
  [1070, 'int16'],
  [1071, 'int32'],
];

/**
 * Reads the groups of a binary DXF: texts stay where they are, as in the text form, and numbers are taken as they are
 * stored. What breaks off in the middle of a group ends before it.
 */
export class BinaryGroupReader extends GroupReader {
  /** Codes have one byte up to R12 and two from R13 on; the first group is 0 SECTION in both. */
  private readonly wide: boolean;
  private readonly view: DataView;
  /** The current group as a number; NaN for texts. */
  private value = NaN;

  constructor(file: Uint8Array, decoder: { decode(bytes: Uint8Array): string }) {
    super(file, decoder, SENTINEL_LENGTH);
    this.wide = file[SENTINEL_LENGTH + 1] === 0;
    this.view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  }

  /** A break inside a text would end it early in the text form, so it is a blank here too. */
  override text(start = this.start, end = this.end): string {
    return super.text(start, end).replace(/[\r\n]/g, ' ');
  }

  override number(start = this.start, end = this.end): number {
    return start === this.start && !Number.isNaN(this.value) ? this.value : super.number(start, end);
  }

  override gather(
    codes: Int32Array,
    starts: Int32Array,
    ends: Int32Array,
    numbers: Float64Array,
    count: number,
  ): number {
    this.full = false;
    for (;;) {
      if (count === codes.length) {
        this.full = true;
        return count;
      }
      if (!this.step()) break;
      if (this.code === 0) {
        this.hold();
        break;
      }
      if (this.code === COMMENT) continue;
      if (this.code === EMBEDDED_OBJECT) this.embedded = EMBEDDED;
      codes[count] = this.code < FIRST_EXTENDED ? this.code + this.embedded : this.code;
      starts[count] = this.start;
      ends[count] = this.end;
      numbers[count++] = this.value;
    }
    this.embedded = 0;
    return count;
  }

  override chunk(start: number, end: number): Uint8Array {
    return this.bytes.subarray(start, end);
  }

  protected override step(): boolean {
    const { bytes, length, view, wide } = this;
    let at = this.position;
    if (at + 2 > length) return false;
    let code = wide ? view.getUint16(at, true) : bytes[at]!;
    at += wide ? 2 : 1;
    if (!wide && code === LONG_CODE) {
      if (at + 2 > length) return false;
      code = view.getUint16(at, true);
      at += 2;
    }
    const kind = KINDS.find(([upTo]) => code <= upTo)?.[1];
    const size = kind && sizeOf(kind, bytes, at);
    if (kind === undefined || size === undefined || at + size > length) return false;
    this.code = code;
    this.line += 2;
    this.start = kind === 'chunk' ? at + 1 : at;
    this.end = kind === 'text' ? at + size - 1 : kind === 'chunk' ? at + size : at;
    this.value = kind === 'text' || kind === 'chunk' ? NaN : Number(numberOf(kind, view, at));
    this.position = at + size;
    return true;
  }
}

/** Bytes that a value takes up; undefined for a text without an end. */
function sizeOf(kind: ValueKind, bytes: Uint8Array, at: number): number | undefined {
  switch (kind) {
    case 'text': {
      const end = bytes.indexOf(0, at);
      return end < 0 ? undefined : end - at + 1;
    }
    case 'chunk':
      return 1 + (bytes[at] ?? 0);
    case 'double':
    case 'int64':
      return 8;
    case 'int32':
      return 4;
    case 'int16':
      return 2;
    case 'byte':
      return 1;
  }
}

function numberOf(kind: Exclude<ValueKind, 'text' | 'chunk'>, view: DataView, at: number): number | bigint {
  switch (kind) {
    case 'double':
      return view.getFloat64(at, true);
    case 'int64':
      return view.getBigInt64(at, true);
    case 'int32':
      return view.getInt32(at, true);
    case 'int16':
      return view.getInt16(at, true);
    case 'byte':
      return view.getUint8(at);
  }
}
