/** The typefaces that ship with Folvex. `symbols` stands in for glyphs that another one lacks. */
export const SHIPPED_FONTS = ['sans', 'condensed', 'serif', 'mono', 'technical', 'symbols'] as const;
export type ShippedFont = (typeof SHIPPED_FONTS)[number];

/** A shipped typeface, or one of the office's own by the hash of its file. */
export type FontId = ShippedFont | `own-${string}`;

/** The typefaces that settings choose from; they may also name one of the office's own by its id. */
export const CHOSEN_FONTS = SHIPPED_FONTS.filter((id) => id !== 'symbols');

/** The id of a typeface of the office's own; the same file has the same one everywhere. */
export function ownFontId(hash: string): FontId {
  return `own-${hash.slice(0, 16)}`;
}

/** True for a typeface of the office's own. */
export function isOwnFont(id: FontId): boolean {
  return id.startsWith('own-');
}

/** The typeface that stands in for another, and how much narrower or wider it is set to take the same room. */
export interface SubstituteFont {
  font: FontId;
  width: number;
}

/**
 * Which shipped typeface stands in for what a drawing asks for; the first pattern that matches wins. Widths make lines
 * of usual text, by height of capitals, as long as in the typeface asked for, or a little shorter: measured against the
 * published widths of Helvetica, Times and Courier; for stroked lettering by Hershey's Roman simplex, and by ISO 3098.
 */
const STANDARD: SubstituteFont = { font: 'sans', width: 1 };
const STAND_INS: readonly [RegExp, SubstituteFont][] = [
  [/sans(?!.*(mono|narrow|cond))/i, STANDARD],
  [/courier|^monotxt/i, { font: 'mono', width: 1.3 }],
  [/mono|consol/i, { font: 'mono', width: 1 }],
  [/narrow|condensed|compressed/i, { font: 'condensed', width: 0.95 }],
  [/^iso|^din/i, { font: 'technical', width: 0.85 }],
  [/times|georgia|garamond|palatino|bookman|cambria|century|serif|^roman[ct]|^ital/i, { font: 'serif', width: 0.98 }],
  [/\.shx$|^txt$|simplex|^romans|^romand|technic/i, { font: 'technical', width: 0.95 }],
];

/** The shipped substitute for a font file or family named in a drawing; the sans where nothing else fits. */
export function shippedSubstitute(wanted: string): SubstituteFont {
  return STAND_INS.find(([pattern]) => pattern.test(wanted.trim()))?.[1] ?? STANDARD;
}

/** A family with its style in words, as own typefaces are called: `Office Sans Bold`. */
export function styledFamily(family: string, bold: boolean, italic: boolean): string {
  return [family, bold && 'Bold', italic && 'Italic'].filter(Boolean).join(' ');
}

/** A font file or family as drawings name it, without its folder and extension, in lower case: what names are compared by. */
export function fontKey(name: string): string {
  const file = name.trim().split(/[/\\]/).pop()!;
  return file.replace(/\.(ttf|otf|ttc|otc|shx|woff2?|pfb)$/i, '').toLowerCase();
}

/** The names that a typeface may have for what a drawing asks for: of each family in a list, with and without its style. */
export function namesFor(wanted: string): string[] {
  return wanted.split(',').flatMap((one) => {
    const name = fontKey(one.replace(/["']/g, ''));
    return [name, name.replace(/( bold)?( italic)?$/, '')];
  });
}
