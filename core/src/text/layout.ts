import { FONT_IDS, type FontId } from './fonts';
import type { FontFace } from './sfnt';

/** The shipped typefaces, ready to measure with. */
export type FontSet = Readonly<Record<FontId, FontFace>>;

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
    const face = fonts[font ?? wanted];
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
  if (fonts[wanted].glyphOf(codePoint)) return wanted;
  return FONT_IDS.find((id) => fonts[id].glyphOf(codePoint));
}
