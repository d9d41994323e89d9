import { SHIPPED_FONTS, shippedSubstitute, type FontId, type SubstituteFont } from './fonts';
import { ownTypefaceFor } from './own-typefaces';
import type { FontFace } from './sfnt';

/** A typeface of the office's own, and the names that drawings ask for it by. */
export interface OwnFace {
  /** Its id among the project's settings. */
  id: string;
  font: FontId;
  asked: readonly string[];
  /** Reads the file; not called until the typeface is first used. */
  read(): FontFace;
}

/** The typefaces that texts are set in: those that ship, and the office's own. */
export class FontSet {
  /** All of them, in the order in which they are asked for a glyph that another one lacks. */
  readonly ids: readonly FontId[];
  private readonly faces: Map<FontId, FontFace>;
  private readonly unread: ReadonlyMap<FontId, OwnFace>;
  private readonly byId: ReadonlyMap<string, FontId>;
  private readonly substitutes = new Map<string, SubstituteFont>();

  constructor(
    shipped: readonly FontFace[],
    private readonly own: readonly OwnFace[] = [],
  ) {
    this.faces = new Map(shipped.map((face) => [face.id, face]));
    this.unread = new Map(own.map((one) => [one.font, one]));
    this.ids = [...this.faces.keys(), ...this.unread.keys()];
    this.byId = new Map(own.map(({ id, font }) => [id, font]));
  }

  /** Throws where the set has no such typeface, or its file cannot be read. */
  face(id: FontId): FontFace {
    let face = this.faces.get(id);
    if (face) return face;
    face = this.unread.get(id)?.read();
    if (!face) throw new Error(`no typeface ${id} was given`);
    this.faces.set(id, face);
    return face;
  }

  /** The typeface that a setting names: a shipped one, or one of the office's own by its id; the sans for any other. */
  chosen(name: string): FontId {
    return this.byId.get(name) ?? SHIPPED_FONTS.find((id) => id === name) ?? 'sans';
  }

  /** The typeface for a font file or family named in a drawing: one of the office's own, else the shipped substitute. */
  substitute(wanted: string): SubstituteFont {
    let found = this.substitutes.get(wanted);
    if (!found) {
      const own = ownTypefaceFor(this.own, wanted);
      this.substitutes.set(wanted, (found = own ? { font: own.font, width: 1 } : shippedSubstitute(wanted)));
    }
    return found;
  }
}

/** A piece of text set in one typeface; `advance` is its width in units of the em. */
export interface TextRun {
  font: FontId;
  text: string;
  advance: number;
}

/**
 * Splits a text into runs: each character in the wanted typeface, or in the first other one that has it. Characters
 * that no typeface has stay in the wanted one (its empty box is shown) and are added to `missing`.
 */
export function textRuns(fonts: FontSet, wanted: FontId, text: string, missing?: Set<string>): TextRun[] {
  const runs: TextRun[] = [];
  let current: TextRun | undefined;
  for (const character of text) {
    const codePoint = character.codePointAt(0)!;
    const font = fontFor(fonts, wanted, codePoint);
    if (font === undefined) missing?.add(character);
    const face = fonts.face(font ?? wanted);
    const advance = face.advanceOf(face.glyphOf(codePoint)) / face.unitsPerEm;
    if (current && current.font === face.id) {
      current.text += character;
      current.advance += advance;
    } else runs.push((current = { font: face.id, text: character, advance }));
  }
  return runs;
}

/** Width of a text in units of the em. */
export function textAdvance(fonts: FontSet, wanted: FontId, text: string): number {
  return textRuns(fonts, wanted, text).reduce((sum, run) => sum + run.advance, 0);
}

/** Breaks lines at spaces so that none is wider than `width` ems, as far as its words allow. */
export function wrapLines(fonts: FontSet, wanted: FontId, lines: readonly string[], width: number): string[] {
  if (!(width > 0)) return [...lines];
  return lines.flatMap((line) => {
    const out: string[] = [];
    let current = '';
    for (const word of line.split(' ')) {
      const longer = current === '' ? word : `${current} ${word}`;
      if (current !== '' && textAdvance(fonts, wanted, longer) > width) {
        out.push(current);
        current = word;
      } else current = longer;
    }
    return [...out, current];
  });
}

function fontFor(fonts: FontSet, wanted: FontId, codePoint: number): FontId | undefined {
  if (fonts.face(wanted).glyphOf(codePoint)) return wanted;
  return fonts.ids.find((id) => fonts.face(id).glyphOf(codePoint));
}
