/**
 * An ICC profile of sRGB (IEC 61966-2-1), version 2.1: three primaries adapted to D50, and a curve each. Made here, so
 * that nobody's profile ships; values as the ICC's own sRGB profiles state them (from memory).
 */
export function srgbProfile(): Uint8Array<ArrayBuffer> {
  const xyz = (x: number, y: number, z: number): number[] => [
    ...ascii('XYZ '),
    ...zeros(4),
    ...[x, y, z].flatMap(fixed),
  ];
  const tags: [string, number[]][] = [
    ['desc', description('sRGB IEC61966-2-1')],
    ['cprt', [...ascii('text'), ...zeros(4), ...ascii('No copyright, use freely\0')]],
    ['wtpt', xyz(0.9642, 1, 0.8249)],
    ['rXYZ', xyz(0.43607, 0.22249, 0.01392)],
    ['gXYZ', xyz(0.38515, 0.71687, 0.09708)],
    ['bXYZ', xyz(0.14307, 0.06061, 0.7141)],
    ['rTRC', CURVE],
    ['gTRC', CURVE],
    ['bTRC', CURVE],
  ];
  const table: number[] = [...word(tags.length)];
  const data: number[] = [];
  const known = new Map<number[], number>();
  const start = 128 + 4 + 12 * tags.length;
  for (const [name, bytes] of tags) {
    let at = known.get(bytes);
    if (at === undefined) {
      known.set(bytes, (at = start + data.length));
      data.push(...bytes, ...zeros((4 - (bytes.length % 4)) % 4));
    }
    table.push(...ascii(name), ...word(at), ...word(bytes.length));
  }
  const size = start + data.length;
  const header = [
    ...word(size),
    ...zeros(4),
    ...word(0x02100000),
    ...ascii('mntrRGB XYZ '),
    // A day that never changes: profiles must state one.
    ...[2026, 1, 1, 0, 0, 0].flatMap((part) => [part >> 8, part & 255]),
    ...ascii('acsp'),
    ...zeros(28),
    ...[0.9642, 1, 0.8249].flatMap(fixed),
    ...zeros(48),
  ];
  return Uint8Array.from([...header, ...table, ...data]);
}

/** The curve of IEC 61966-2-1 at 256 places. */
const CURVE: number[] = [
  ...ascii('curv'),
  ...zeros(4),
  ...word(256),
  ...Array.from({ length: 256 }, (_, i) => {
    const encoded = i / 255;
    const linear = encoded <= 0.04045 ? encoded / 12.92 : ((encoded + 0.055) / 1.055) ** 2.4;
    const value = Math.round(linear * 65_535);
    return [value >> 8, value & 255];
  }).flat(),
];

function description(text: string): number[] {
  return [...ascii('desc'), ...zeros(4), ...word(text.length + 1), ...ascii(text), 0, ...zeros(4 + 4 + 2 + 1 + 67)];
}

/** A signed number with 16 bits behind the point. */
function fixed(value: number): number[] {
  return word(Math.round(value * 65_536));
}

function word(value: number): number[] {
  return [(value >>> 24) & 255, (value >>> 16) & 255, (value >>> 8) & 255, value & 255];
}

function zeros(count: number): number[] {
  return new Array<number>(count).fill(0);
}

function ascii(text: string): number[] {
  return [...text].map((character) => character.charCodeAt(0));
}
