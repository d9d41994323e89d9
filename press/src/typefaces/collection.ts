/** More fonts than any collection that is in use has. */
const MAX_FONTS = 64;
const [HEADER, RECORD] = [12, 16];

/** The fonts of a collection, each as a file of its own with its tables as they are (ISO/IEC 14496-22, 4.3 and 4.6). */
export function facesOfCollection(bytes: Uint8Array): Uint8Array[] {
  const data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = Math.min(MAX_FONTS, data.getUint32(8));
  return Array.from({ length: count }, (_, i) => fontAt(bytes, data, data.getUint32(HEADER + 4 * i)));
}

/** The font whose table directory is at a place. */
function fontAt(bytes: Uint8Array, data: DataView, at: number): Uint8Array {
  const directory = new Uint8Array(bytes.subarray(at, at + HEADER + RECORD * data.getUint16(at + 4)));
  const written = new DataView(directory.buffer);
  const tables: Uint8Array[] = [];
  let end = directory.length;
  for (let record = HEADER; record < directory.length; record += RECORD) {
    const [from, length] = [written.getUint32(record + 8), written.getUint32(record + 12)];
    if (from + length > bytes.length) throw new Error('a table ends beyond the file');
    written.setUint32(record + 8, end);
    const padded = new Uint8Array((length + 3) & ~3);
    padded.set(bytes.subarray(from, from + length));
    tables.push(padded);
    end += padded.length;
  }
  return Buffer.concat([directory, ...tables]);
}
