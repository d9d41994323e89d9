/** The kinds of files that can be read, recognised by their first bytes. */
export type FileKind = 'dxf' | 'svg' | 'pdf' | 'png' | 'jpeg' | 'tiff' | 'zip';

const SIGNATURES: readonly [number[], FileKind][] = [
  [[0x89, 0x50, 0x4e, 0x47], 'png'],
  [[0xff, 0xd8, 0xff], 'jpeg'],
  [[0x49, 0x49, 0x2a, 0x00], 'tiff'],
  [[0x4d, 0x4d, 0x00, 0x2a], 'tiff'],
  [[0x50, 0x4b, 0x03, 0x04], 'zip'],
  [[0x50, 0x4b, 0x05, 0x06], 'zip'],
];

/** The kind of a file by its first bytes, whatever it is called; what is none of the others is tried as a DXF. */
export function kindOf(bytes: Uint8Array): FileKind {
  for (const [signature, kind] of SIGNATURES) if (signature.every((byte, i) => bytes[i] === byte)) return kind;
  const head = String.fromCharCode(...bytes.subarray(0, 1024));
  // Readers accept a PDF's header anywhere in the first kilobyte (ISO 32000-1, annex H).
  if (head.includes('%PDF-')) return 'pdf';
  const sixteen = utf16Of(bytes);
  const start = (sixteen ? new TextDecoder(sixteen).decode(bytes.subarray(0, 4096)) : head).replace(/^\uFEFF|^ï»¿/, '');
  return /^\s*</.test(start) ? 'svg' : 'dxf';
}

/** The encoding of a text that begins with the byte order mark of UTF-16. */
export function utf16Of(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | undefined {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  return bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : undefined;
}
