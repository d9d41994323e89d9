import { compose, type Affine } from '../geometry/affine';
import type { Colour, Drawing, TextEntity, TextSpan } from '../drawing/model';
import { standInFont, type FontId } from '../text/fonts';
import { textAdvance, type FontSet } from '../text/layout';
import { emOf, LINE_STEP, placeLettering, type PlacedText } from './lettering';

/** A placed piece of text of its own colour, where it has one. */
export interface ColouredText extends PlacedText {
  colour: Colour | undefined;
}

/** A line under, over or through text: corners of a thin rectangle, mapped. */
export interface TextRule {
  corners: [number, number][];
  colour: Colour | undefined;
}

interface Piece {
  span: TextSpan;
  text: string;
  font: FontId;
  /** Height of capitals and width, in the text's own units. */
  height: number;
  width: number;
}

interface Line {
  pieces: Piece[];
  width: number;
  height: number;
}

/** The halves of a stack over the height of the text around (common practice). */
const STACKED = 0.65;
/** Thickness of lines under and over text, and how far off they lie, over its height (common practice). */
const RULE = 0.07;
const RULE_GAP = 0.22;

/** Sets a text whose spans differ in look, about the origin of `map`, whose x axis is the direction of the baseline. */
export function placeRich(
  fonts: FontSet,
  drawing: Drawing,
  entity: TextEntity & { rich: TextSpan[][] },
  map: Affine,
  missing: Set<string>,
): { texts: ColouredText[]; rules: TextRule[] } {
  const own = standInFont(drawing.textStyles[entity.textStyle]?.font ?? '');
  const lines = entity.rich.flatMap((spans) =>
    broken(
      spans.map((span) => pieceOf(fonts, entity, span, own)),
      fonts,
      entity,
    ),
  );
  const steps = lines.map(({ height }) => height * LINE_STEP * entity.lineSpacing);
  const total = lines.length ? lines[0]!.height + steps.slice(1).reduce((sum, step) => sum + step, 0) : 0;
  let y = entity.vertical === 'top' ? 0 : entity.vertical === 'middle' ? total / 2 : total;
  const texts: ColouredText[] = [];
  const rules: TextRule[] = [];
  lines.forEach((line, i) => {
    y -= i === 0 ? line.height : steps[i]!;
    let x = entity.horizontal === 'right' ? -line.width : entity.horizontal === 'centre' ? -line.width / 2 : 0;
    for (const piece of line.pieces) {
      setPiece(fonts, piece, x, y, map, missing, texts, rules);
      x += piece.width;
    }
  });
  return { texts, rules };
}

function pieceOf(fonts: FontSet, entity: TextEntity, span: TextSpan, own: FontId, text = span.text): Piece {
  const font = span.font === undefined ? own : standInFont(span.font);
  const height = entity.height * span.height;
  const factor = span.widthFactor ?? entity.widthFactor;
  const widthOf = (part: string, size: number): number =>
    textAdvance(fonts, font, part) * emOf(fonts, font, size) * factor;
  const width =
    span.over === undefined
      ? widthOf(text, height)
      : Math.max(widthOf(span.over, height * STACKED), widthOf(span.under ?? '', height * STACKED));
  return { span: { ...span, widthFactor: factor }, text, font, height, width };
}

/** Breaks a line of pieces at spaces where it is wider than the text may be. */
function broken(pieces: Piece[], fonts: FontSet, entity: TextEntity): Line[] {
  const most = entity.wrapWidth;
  const lines: Line[] = [];
  let current: Piece[] = [];
  let width = 0;
  const end = (): void => {
    const height = Math.max(
      entity.height * 0.2,
      ...current.map((piece) => piece.height * (piece.span.over === undefined ? 1 : 1.3)),
    );
    lines.push({ pieces: current, width, height: current.length ? height : entity.height });
    current = [];
    width = 0;
  };
  const add = (piece: Piece): void => {
    current.push(piece);
    width += piece.width;
  };
  for (const piece of pieces) {
    if (!(most > 0) || piece.span.over !== undefined) {
      add(piece);
      continue;
    }
    // Words keep the space behind them; one that overhangs only by its space stays.
    for (const word of piece.text.match(/[^ ]* ?/g) ?? []) {
      if (word === '') continue;
      const part = pieceOf(fonts, entity, piece.span, piece.font, word);
      const bare = pieceOf(fonts, entity, piece.span, piece.font, word.trimEnd());
      if (current.length > 0 && width + bare.width > most * 1.0001) end();
      add({ ...part, font: piece.font });
    }
  }
  end();
  return lines;
}

function setPiece(
  fonts: FontSet,
  { span, text, font, height, width }: Piece,
  x: number,
  y: number,
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
      widthFactor: span.widthFactor ?? 1,
      horizontal: 'left' as const,
      vertical: 'baseline' as const,
      lineSpacing: 1,
    };
    for (const placed of placeLettering(fonts, lettering, compose(map, slant), missing)) {
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
