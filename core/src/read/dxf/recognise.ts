import type { ProblemCode } from '../../problem-codes';
import type { Problem } from '../../problem';
import { BINARY_SENTINEL } from './binary';

const SIGNATURES: readonly [number[], string][] = [
  [[0x89, 0x50, 0x4e, 0x47], 'a PNG picture'],
  [[0xff, 0xd8, 0xff], 'a JPEG picture'],
  [[0x25, 0x50, 0x44, 0x46], 'a PDF'],
  [[0x50, 0x4b, 0x03, 0x04], 'a ZIP archive'],
];

/** True for the binary form of DXF. */
export function isBinary(bytes: Uint8Array): boolean {
  return ascii(bytes, 0, BINARY_SENTINEL.length) === BINARY_SENTINEL;
}

/** Why bytes cannot be read as the text form of DXF; undefined when it is worth trying. */
export function refusalOf(bytes: Uint8Array, name: string): Problem | undefined {
  const refuse = (code: ProblemCode, sentence: string): Problem => ({ code, sentence, place: { file: name } });
  if (bytes.length === 0) return refuse('dxf.empty', `${name} is empty; save the drawing again and add that file.`);
  for (const [signature, what] of SIGNATURES) {
    if (signature.every((byte, i) => bytes[i] === byte)) {
      return refuse(
        'dxf.other-format',
        `${name} is ${what}, not a DXF drawing; save the drawing as DXF and add that file.`,
      );
    }
  }
  const head = ascii(bytes, 0, 200);
  if (!/^\s*(\uFEFF|ï»¿)?\s*-?\d+\s*\n/.test(head)) {
    return refuse(
      'dxf.not-dxf',
      `${name} is not a DXF drawing: it does not begin with a group code. Save the drawing as DXF and add that file.`,
    );
  }
  return undefined;
}

/** Releases of the format by the value of `$ACADVER` (DXF reference, header section). */
const RELEASES: Readonly<{ [version: string]: string }> = {
  AC1006: 'R10',
  AC1009: 'R12',
  AC1012: 'R13',
  AC1014: 'R14',
  AC1015: '2000',
  AC1018: '2004',
  AC1021: '2007',
  AC1024: '2010',
  AC1027: '2013',
  AC1032: '2018',
};

/** The release of the format in words, such as `DXF 2013`. */
export function formatOf(version: string): string {
  return `DXF ${RELEASES[version.toUpperCase()] ?? version}`;
}

/** Text decoder by the file's version and code page: UTF-8 from AC1021 (2007) on, else by $DWGCODEPAGE. */
export function decoderFor(bytes: Uint8Array): { decode(bytes: Uint8Array): string } {
  // In the binary form, codes and the ends of texts are control characters.
  const head = ascii(bytes, 0, 4000).replace(/\p{Cc}/gu, ' ');
  const version = /\$ACADVER\s+(?:1\s+)?AC(\d{4})/.exec(head)?.[1];
  const page = /\$DWGCODEPAGE\s+(?:3\s+)?(\S+)/.exec(head)?.[1];
  if (bytes[0] === 0xef || (version && Number(version) >= 1021)) return new TextDecoder('utf-8');
  const number = /(\d{3,5})$/.exec(page ?? '')?.[1];
  const labels: Readonly<{ [page: string]: string }> = { 932: 'shift_jis', 936: 'gbk', 949: 'euc-kr', 950: 'big5' };
  if (number && labels[number]) return new TextDecoder(labels[number]);
  return new TextDecoder(number && /^125[0-8]$|^874$/.test(number) ? `windows-${number}` : 'windows-1252');
}

function ascii(bytes: Uint8Array, start: number, end: number): string {
  let text = '';
  for (let i = start; i < Math.min(end, bytes.length); i++) text += String.fromCharCode(bytes[i]!);
  return text;
}
