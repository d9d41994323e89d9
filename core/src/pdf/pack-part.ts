import type { SheetPart } from './part';

/** A part as bytes, for the store: length of a JSON header (4 bytes, little-endian), the header, the content. */
export function packPart(part: SheetPart): Uint8Array<ArrayBuffer> {
  const { content, ...rest } = part;
  const header = new TextEncoder().encode(JSON.stringify(rest));
  const bytes = new Uint8Array(4 + header.length + content.length);
  new DataView(bytes.buffer).setUint32(0, header.length, true);
  bytes.set(header, 4);
  bytes.set(content, 4 + header.length);
  return bytes;
}

/** The part that `packPart` packed; its content lies in `bytes`. */
export function unpackPart(bytes: Uint8Array): SheetPart {
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
  const header = JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + length))) as Omit<SheetPart, 'content'>;
  return { ...header, content: bytes.subarray(4 + length) };
}
