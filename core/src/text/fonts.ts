/** The typefaces that ship with Folvex. `symbols` stands in for glyphs that another one lacks. */
export type FontId = 'sans' | 'condensed' | 'mono' | 'symbols';

export const FONT_IDS: readonly FontId[] = ['sans', 'condensed', 'mono', 'symbols'];

/** Which shipped typeface stands in for what a drawing asks for; the first pattern that matches wins. */
const STAND_INS: readonly [RegExp, FontId][] = [
  [/mono|courier|consol/i, 'mono'],
  [/narrow|condensed|\.shx$|^txt$|simplex|^iso/i, 'condensed'],
];

/** The shipped typeface for a font file or family named in a drawing; the sans where nothing else fits. */
export function standInFont(wanted: string): FontId {
  return STAND_INS.find(([pattern]) => pattern.test(wanted.trim()))?.[1] ?? 'sans';
}
