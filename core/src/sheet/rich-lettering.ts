import { multiply, type Affine } from '../geometry/affine';
import type { Colour, Drawing } from '../drawing/model';
import type { FontSet } from '../text/layout';
import { placeLettering, type PlacedText } from './lettering';
import { richPieces, STACKED, type LinePiece, type RichText } from './rich-lines';

/** A placed piece of text of its own colour, where it has one. */
export interface ColouredText extends PlacedText {
  colour: Colour | undefined;
}

/** A line under, over or through text: corners of a thin rectangle, mapped. */
export interface TextRule {
  corners: [number, number][];
  colour: Colour | undefined;
}

/** Thickness of lines under and over text, and how far off they lie, over its height (common practice). */
const RULE = 0.07;
const RULE_GAP = 0.22;

/** Sets a text whose spans differ in look, about the origin of `map`, whose x axis is the direction of the baseline. */
export function placeRich(
  fonts: FontSet,
  drawing: Drawing,
  entity: RichText,
  map: Affine,
  missing: Set<string>,
): { texts: ColouredText[]; rules: TextRule[] } {
  const texts: ColouredText[] = [];
  const rules: TextRule[] = [];
  for (const piece of richPieces(fonts, drawing, entity)) setPiece(fonts, piece, map, missing, texts, rules);
  return { texts, rules };
}

function setPiece(
  fonts: FontSet,
  { span, text, font, widthFactor, height, width, x, y }: LinePiece,
  map: Affine,
  missing: Set<string>,
  texts: ColouredText[],
  rules: TextRule[],
): void {
  const write = (part: string, size: number, left: number, baseline: number): void => {
    const slant = { a: 1, b: 0, c: Math.tan(span.oblique ?? 0), d: 1, e: left, f: baseline };
    const lettering = {
      lines: [part],
      font,
      height: size,
      widthFactor,
      horizontal: 'left' as const,
      vertical: 'baseline' as const,
      lineSpacing: 1,
    };
    for (const placed of placeLettering(fonts, lettering, multiply(map, slant), missing)) {
      texts.push({ ...placed, colour: span.colour });
    }
  };
  const rule = (at: number): void => {
    const [low, high] = [y + at - (RULE * height) / 2, y + at + (RULE * height) / 2];
    const corner = (cx: number, cy: number): [number, number] => [
      map.a * cx + map.c * cy + map.e,
      map.b * cx + map.d * cy + map.f,
    ];
    const corners = [corner(x, low), corner(x + width, low), corner(x + width, high), corner(x, high)];
    rules.push({ corners, colour: span.colour });
  };
  if (span.over !== undefined) {
    write(span.over, height * STACKED, x, y + height * 0.72);
    write(span.under ?? '', height * STACKED, x, y - height * 0.22);
    if (span.bar) rule(height * 0.56);
    return;
  }
  write(text, height, x, y);
  if (span.underline) rule(-RULE_GAP * height);
  if (span.overline) rule((1 + RULE_GAP) * height);
  if (span.strike) rule(height / 2);
}
