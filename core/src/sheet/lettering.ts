import { apply, multiply, rotation, translation, type Affine } from '../geometry/affine';
import { mappedBox, type Box } from '../geometry/box';
import type { Drawing, TextEntity } from '../drawing/model';
import type { FontId } from '../text/fonts';
import { visualOrder } from '../text/reading';
import { textAdvance, textRuns, wrapLines, type FontSet } from '../text/layout';
import type { PageText } from '../page/page';

/** Baseline distance of several lines over the height of capitals (DXF: MTEXT line spacing). */
export const LINE_STEP = 5 / 3;

/** A piece of text ready for a page, with the box around it; lengths in the units the map leads to. */
export interface PlacedText {
  text: PageText;
  box: Box;
}

/** A text to set: lines of one height (of capitals), anchored at a point. */
export interface Lettering {
  lines: readonly string[];
  font: FontId;
  height: number;
  widthFactor: number;
  horizontal: 'left' | 'centre' | 'right';
  vertical: 'baseline' | 'bottom' | 'middle' | 'top';
  lineSpacing: number;
}

/** Sets the text of a drawing, mapped to the paper. */
export function placeEntityText(
  fonts: FontSet,
  drawing: Drawing,
  entity: TextEntity,
  map: Affine,
  missing: Set<string>,
): PlacedText[] {
  const { font, width } = fonts.substitute(drawing.textStyles[entity.textStyle]?.font ?? '');
  const widthFactor = entity.widthFactor * width;
  const height = entity.byEm
    ? (entity.height * fonts.face(font).capHeight) / fonts.face(font).unitsPerEm
    : entity.height;
  const em = emOf(fonts, font, height);
  const lettering: Lettering = {
    lines: wrapLines(fonts, font, entity.lines, entity.wrapWidth / (em * widthFactor)),
    font,
    height,
    widthFactor,
    horizontal: entity.horizontal === 'fit' || entity.horizontal === 'aligned' ? 'left' : entity.horizontal,
    vertical: entity.vertical,
    lineSpacing: entity.lineSpacing,
  };
  let turn = entity.rotation;
  if (entity.horizontal === 'fit' || entity.horizontal === 'aligned') turn = stretch(fonts, entity, lettering, em);
  const local = multiply(multiply(translation(entity.x, entity.y), rotation(turn)), flipAndSlant(entity));
  return placeLettering(fonts, lettering, multiply(map, local), missing);
}

/** Where a text's own axes lie: its anchor at the origin, its baseline along x. */
export function textAxes(entity: TextEntity, map: Affine): Affine {
  const local = multiply(translation(entity.x, entity.y), rotation(entity.rotation));
  return multiply(map, multiply(local, flipAndSlant(entity)));
}

/** Sets lines of text about the origin of `map`, whose x axis is the direction of the baseline. */
export function placeLettering(
  fonts: FontSet,
  lettering: Lettering,
  map: Affine,
  missing: Set<string> = new Set(),
): PlacedText[] {
  const { lines, font, height, widthFactor } = lettering;
  const em = emOf(fonts, font, height);
  const step = height * LINE_STEP * lettering.lineSpacing;
  const first = firstBaseline(lettering, step, em * descentOf(fonts, font));
  const placed: PlacedText[] = [];
  lines.map(visualOrder).forEach((line, i) => {
    const width = textAdvance(fonts, font, line) * em * widthFactor;
    let x = lettering.horizontal === 'left' ? 0 : lettering.horizontal === 'right' ? -width : -width / 2;
    for (const run of textRuns(fonts, font, line, missing)) {
      const size = run.font === font ? em : emOf(fonts, run.font, height);
      const advance = run.advance * size;
      if (run.text.trim())
        placed.push(placeRun(run.text, run.font, size, advance, widthFactor, x, first - i * step, map));
      x += advance * widthFactor;
    }
  });
  return placed;
}

/** Size of the em at which capitals of a typeface are `height` high. */
export function emOf(fonts: FontSet, font: FontId, height: number): number {
  return (height * fonts.face(font).unitsPerEm) / fonts.face(font).capHeight;
}

function placeRun(
  text: string,
  font: FontId,
  em: number,
  advance: number,
  widthFactor: number,
  x: number,
  y: number,
  map: Affine,
): PlacedText {
  const grow = Math.hypot(map.c, map.d) || 1;
  const [px, py] = apply(map, x, y);
  const page: PageText = {
    text,
    font,
    size: em * grow,
    a: (map.a * widthFactor) / grow,
    b: (map.b * widthFactor) / grow,
    c: map.c / grow,
    d: map.d / grow,
    x: px,
    y: py,
    advance: advance * grow,
  };
  const local = { xmin: x, xmax: x + advance * widthFactor, ymin: y - 0.3 * em, ymax: y + em };
  return { text: page, box: mappedBox(map, local) };
}

function descentOf(fonts: FontSet, font: FontId): number {
  return -fonts.face(font).descent / fonts.face(font).unitsPerEm;
}

function firstBaseline(lettering: Lettering, step: number, descent: number): number {
  const rest = (lettering.lines.length - 1) * step;
  switch (lettering.vertical) {
    case 'top':
      return -lettering.height;
    case 'middle':
      return (rest - lettering.height) / 2;
    case 'bottom':
      return rest + descent * 0.6;
    default:
      return rest;
  }
}

/** Fits text between its two points; returns the direction of its baseline. */
function stretch(fonts: FontSet, entity: TextEntity, lettering: Lettering, em: number): number {
  const distance = Math.hypot(entity.x2 - entity.x, entity.y2 - entity.y);
  const natural = textAdvance(fonts, lettering.font, entity.lines[0] ?? '') * em * lettering.widthFactor;
  if (natural > 0 && distance > 0) {
    if (entity.horizontal === 'aligned') lettering.height *= distance / natural;
    else lettering.widthFactor *= distance / natural;
  }
  return distance > 0 ? Math.atan2(entity.y2 - entity.y, entity.x2 - entity.x) : entity.rotation;
}

function flipAndSlant(entity: TextEntity): Affine {
  const flipX = entity.backwards ? -1 : 1;
  const flipY = entity.upsideDown ? -1 : 1;
  return { a: flipX, b: 0, c: Math.tan(entity.oblique) * flipY, d: flipY, e: 0, f: 0 };
}
