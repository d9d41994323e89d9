import type { FontId } from '../text/fonts';
import { joinBytes } from '../join-bytes';
import type { ForeignObject } from './foreign';
import type { SheetPart } from './part';

/** A part's header: everything but bytes, of which it says how many there are. */
type Header = Omit<SheetPart, 'content' | 'pictures' | 'repeated' | 'groups'> & {
  contentLength: number;
  repeated: { length: number; fonts: FontId[] }[];
  groups: { length: number; masks: boolean }[];
  pictures: { key: string; objects: PackedObject[] }[];
};
type PackedObject = Exclude<ForeignObject, { body: string }> | { body: string; streamLength?: number };

/** A part as bytes, for the store: length of a JSON header (4 bytes, little-endian), the header, then its streams. */
function packPart(part: SheetPart): Uint8Array<ArrayBuffer> {
  const { content, pictures, repeated, groups, ...rest } = part;
  const streams = [content, ...[...repeated, ...groups].map((one) => one.content)];
  const lengths = repeated.map((one) => ({ length: one.content.length, fonts: one.fonts }));
  const groupLengths = groups.map(({ content, masks }) => ({ length: content.length, masks }));
  const packed = pictures.map(({ key, objects }) => ({
    key,
    objects: objects.map((object): PackedObject => {
      if (!('stream' in object) || !object.stream) return object;
      streams.push(object.stream);
      return { body: object.body, streamLength: object.stream.length };
    }),
  }));
  const facts: Header = {
    ...rest,
    contentLength: content.length,
    repeated: lengths,
    groups: groupLengths,
    pictures: packed,
  };
  const header = new TextEncoder().encode(JSON.stringify(facts));
  const length = new Uint8Array(4);
  new DataView(length.buffer).setUint32(0, header.length, true);
  return joinBytes([length, header, ...streams]);
}

/** The parts of a sheet one after the other: mostly one, several where it goes on several pages. */
export function packParts(parts: readonly SheetPart[]): Uint8Array<ArrayBuffer> {
  return joinBytes(parts.map(packPart));
}

/** The parts that `packParts` packed; their streams lie in `bytes`. */
export function unpackParts(bytes: Uint8Array): SheetPart[] {
  const parts: SheetPart[] = [];
  let at = 0;
  while (at < bytes.length) {
    const { part, length } = unpackPart(bytes.subarray(at));
    parts.push(part);
    at += length;
  }
  return parts;
}

function unpackPart(bytes: Uint8Array): { part: SheetPart; length: number } {
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
  const { contentLength, pictures, repeated, groups, ...rest } = JSON.parse(
    new TextDecoder().decode(bytes.subarray(4, 4 + length)),
  ) as Header;
  let at = 4 + length;
  const take = (size: number): Uint8Array => bytes.subarray(at, (at += size));
  const content = take(contentLength);
  const part: SheetPart = {
    ...rest,
    content,
    repeated: repeated.map(({ length, fonts }) => ({ content: take(length), fonts })),
    groups: groups.map(({ length, masks }) => ({ content: take(length), masks })),
    pictures: pictures.map(({ key, objects }) => ({
      key,
      objects: objects.map((object): ForeignObject => {
        if ('layer' in object || object.streamLength === undefined) return object;
        return { body: object.body, stream: take(object.streamLength) };
      }),
    })),
  };
  return { part, length: at };
}
