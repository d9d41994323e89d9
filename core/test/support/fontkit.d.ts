/** What the tests use of fontkit, which comes without types. */
declare module 'fontkit' {
  interface Font {
    getGlyph(glyph: number): { path: { commands: { command: string; args: number[] }[] } };
  }
  export function openSync(path: string): Font;
}
