/** As much of fontkit's interface as is used; its package ships no types. Lengths are in font units. */
declare module 'fontkit' {
  export interface PathCommand {
    command: 'moveTo' | 'lineTo' | 'quadraticCurveTo' | 'bezierCurveTo' | 'closePath';
    args: number[];
  }
  /** Identifiers of the glyphs after the first: one by one, or in runs. */
  export interface Charset {
    version: number;
    glyphs?: number[];
    ranges?: { first: number; nLeft: number }[];
  }
  export interface Font {
    fullName: string | null;
    subfamilyName: string | null;
    /** The table of PostScript outlines. */
    'CFF ': { isCIDFont: boolean; topDict: { charset: Charset } };
    getGlyph(glyph: number): { path: { commands: PathCommand[] } };
  }
  export function openSync(path: string): Font;
  export function create(bytes: Buffer): Font;
}
