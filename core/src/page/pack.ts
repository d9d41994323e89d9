import type { Page } from './page';

const MAGIC = 0x35475046; // "FPG5", little-endian
const COLUMNS = ['kind', 'layer', 'pen', 'clip', 'tag', 'group', 'verbStart', 'coordStart', 'verbs', 'coords'] as const;
const ELEMENTS = {
  kind: Uint8Array,
  layer: Uint16Array,
  pen: Uint32Array,
  clip: Uint32Array,
  tag: Uint32Array,
  group: Uint32Array,
  verbStart: Uint32Array,
  coordStart: Uint32Array,
  verbs: Uint8Array,
  coords: Int32Array,
} as const;

type Header = Omit<Page, (typeof COLUMNS)[number] | 'block' | 'blocks'> & { lengths: number[] };

/**
 * A page as bytes, for caches and wires: magic number, length of a JSON header, the header, then the columns of
 * numbers, each on a multiple of four bytes, little-endian. Block references are not kept.
 */
export function packPage(page: Page): Uint8Array<ArrayBuffer> {
  const { widthMm, heightMm, layers, pens, clips, texts, pictures, placed, groups, markCount } = page;
  const lengths = COLUMNS.map((name) => page[name].length);
  const shared = { widthMm, heightMm, layers, pens, clips, texts, pictures, placed, groups, markCount };
  const header: Header = { ...shared, lengths };
  const json = new TextEncoder().encode(JSON.stringify(header));
  const columns = COLUMNS.map((name) => page[name]);
  const total = columns.reduce((sum, column) => sum + aligned(column.byteLength), 8 + aligned(json.length));
  const bytes = new Uint8Array(total);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, json.length, true);
  bytes.set(json, 8);
  let at = 8 + aligned(json.length);
  for (const column of columns) {
    bytes.set(new Uint8Array(column.buffer, column.byteOffset, column.byteLength), at);
    at += aligned(column.byteLength);
  }
  return bytes;
}

/** The page that `packPage` packed; its columns lie in `bytes`. Throws when they are something else. */
export function unpackPage(bytes: Uint8Array<ArrayBuffer>): Page {
  const buffer = bytes.byteOffset % 4 === 0 ? bytes : bytes.slice();
  const view = new DataView(buffer.buffer, buffer.byteOffset, buffer.byteLength);
  if (buffer.length < 8 || view.getUint32(0, true) !== MAGIC) throw new Error('not a packed page');
  const jsonLength = view.getUint32(4, true);
  const json = new TextDecoder().decode(buffer.subarray(8, 8 + jsonLength));
  const { lengths, ...header } = JSON.parse(json) as Header;
  let at = buffer.byteOffset + 8 + aligned(jsonLength);
  const column = <K extends (typeof COLUMNS)[number]>(name: K): Page[K] => {
    const type = ELEMENTS[name];
    const array = new type(buffer.buffer, at, lengths[COLUMNS.indexOf(name)]!);
    at += aligned(array.byteLength);
    return array as unknown as Page[K];
  };
  return {
    ...header,
    kind: column('kind'),
    layer: column('layer'),
    pen: column('pen'),
    clip: column('clip'),
    tag: column('tag'),
    group: column('group'),
    verbStart: column('verbStart'),
    coordStart: column('coordStart'),
    verbs: column('verbs'),
    coords: column('coords'),
  };
}

function aligned(length: number): number {
  return (length + 3) & ~3;
}
