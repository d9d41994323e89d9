/** What a binary DXF begins with, as the format prescribes it. */
export const BINARY_SENTINEL = 'AutoCAD Binary DXF';

const SENTINEL_LENGTH = 22;
const LF = 10;
const CR = 13;
const SPACE = 32;
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

/** The text form of a binary DXF, group by group; what breaks off in the middle of a group ends before it. */
export function binaryToText(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const out = new Lines(bytes.length * 2);
  // Codes have one byte up to R12 and two from R13 on; the first group is 0 SECTION in both.
  const wide = bytes[SENTINEL_LENGTH + 1] === 0;
  let at = SENTINEL_LENGTH;
  while (at + 2 <= bytes.length) {
    let code = wide ? view.getUint16(at, true) : bytes[at]!;
    at += wide ? 2 : 1;
    if (!wide && code === LONG_CODE) {
      if (at + 2 > bytes.length) break;
      code = view.getUint16(at, true);
      at += 2;
    }
    const kind = KINDS.find(([upTo]) => code <= upTo)?.[1];
    const length = kind && lengthOf(kind, bytes, at);
    if (kind === undefined || length === undefined || at + length > bytes.length) break;
    out.text(String(code));
    if (kind === 'text') out.bytes(bytes.subarray(at, at + length - 1));
    else if (kind === 'chunk') out.text('');
    else out.text(String(numberOf(kind, view, at)));
    at += length;
  }
  return out.taken();
}

/** Bytes that a value takes up; undefined for a text without an end. */
function lengthOf(kind: ValueKind, bytes: Uint8Array, at: number): number | undefined {
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

/** Gathers lines of bytes. */
class Lines {
  private kept: Uint8Array<ArrayBuffer>;
  private at = 0;

  constructor(size: number) {
    this.kept = new Uint8Array(size + 64);
  }

  text(line: string): void {
    this.room(line.length + 1);
    for (let i = 0; i < line.length; i++) this.kept[this.at++] = line.charCodeAt(i);
    this.kept[this.at++] = LF;
  }

  /** A line of the file's own bytes; a break inside it would end it early. */
  bytes(line: Uint8Array): void {
    this.room(line.length + 1);
    for (const byte of line) this.kept[this.at++] = byte === LF || byte === CR ? SPACE : byte;
    this.kept[this.at++] = LF;
  }

  taken(): Uint8Array {
    return this.kept.subarray(0, this.at);
  }

  private room(more: number): void {
    if (this.at + more <= this.kept.length) return;
    const bigger = new Uint8Array(this.kept.length * 2 + more);
    bigger.set(this.kept);
    this.kept = bigger;
  }
}
