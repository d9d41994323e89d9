/** As much of fontverter's interface as is used; its package ships no types. */
declare module 'fontverter' {
  export function convert(font: Buffer, format: 'sfnt' | 'woff' | 'woff2'): Promise<Buffer>;
}
