import { translation } from '../../geometry/affine';
import { height, width, type Box } from '../../geometry/box';
import { boxPath, linePath } from '../../geometry/outline';
import type { Fields } from '../../naming/rule';
import type { PageBuilder } from '../../page/builder';
import { TITLE_LAYER } from '../../page/page';
import { textAdvance, type FontSet } from '../../text/layout';
import { emOf, placeLettering } from '../lettering';
import { cellText, titleFields, type TitleFacts } from './fields';
import { drawNorth, drawScaleBar } from './figures';
import { PADDING_MM, type TitlePen } from './pen';
import { drawRevisions } from './revisions';
import { blockBox, cellBox, type TitleCell, type TitleTemplate } from './template';

const OUTLINE_MM = 0.5;
const RULE_MM = 0.25;
const CAPTION_MM = 1.8;
const STANDARD_SIZE_MM = 2.5;
const INK = 0x000000;

/** Draws a drawing, or a block of it, by the drawing's id, into a box. */
type DrawInto = (drawing: string, box: Box, block?: string) => void;

/**
 * Draws a title block into a frame, filled in with what is known of its sheet. `drawn` draws a drawing, by its id,
 * into a box.
 */
export function drawTitleBlock(
  builder: PageBuilder,
  fonts: FontSet,
  frame: Box,
  template: TitleTemplate,
  facts: TitleFacts & { rotation: number },
  drawn: DrawInto,
): void {
  const block = blockBox(template, frame);
  const layer = builder.layer('', TITLE_LAYER);
  const pen = titlePen(builder, fonts, layer);
  builder.fill(boxPath(block), layer, builder.pen(0, 0xffffff));
  const fields = titleFields(facts);
  for (const cell of template.cells) {
    const box = cellBox(cell, block);
    if (!(width(box) > 0 && height(box) > 0)) continue;
    if (!cell.plain) builder.stroke(boxPath(box), layer, builder.pen(RULE_MM, INK, [], false));
    fillCell(pen, cell, box, fields, facts, drawn);
  }
  builder.stroke(boxPath(block), layer, builder.pen(OUTLINE_MM, INK, [], false));
}

function fillCell(
  pen: TitlePen,
  cell: TitleCell,
  box: Box,
  fields: Fields,
  { sheet, scales, imperial, rotation }: TitleFacts & { rotation: number },
  drawn: DrawInto,
): void {
  const room = width(box) - 2 * PADDING_MM;
  const left = box.xmin + PADDING_MM;
  const captionHeight = cell.caption ? PADDING_MM + CAPTION_MM : 0;
  if (cell.caption) pen.write(cell.caption, { size: CAPTION_MM }, { x: left, y: box.ymax - captionHeight, room });
  const free: Box = { ...box, ymax: box.ymax - captionHeight };
  switch (cell.kind ?? 'text') {
    case 'revisions':
      return drawRevisions(pen, free, sheet, cell.grows ?? 'up');
    case 'north':
      return drawNorth(pen, free, rotation + northOf(sheet.titleBlock?.fields['north']));
    case 'scaleBar':
      return drawScaleBar(pen, free, scales, imperial ? 'ft' : 'm');
    case 'drawing':
      return cell.drawing ? drawn(cell.drawing, cell.block ? free : inner(free), cell.block) : undefined;
    default: {
      const size = cell.size ?? STANDARD_SIZE_MM;
      const lift = Math.max(0, (height(free) - 2 * PADDING_MM - size) / 2 - 0.3);
      pen.write(cellText(cell, fields), { ...cell, size }, { x: left, y: box.ymin + PADDING_MM + lift, room });
    }
  }
}

/** Degrees that somebody typed for where north lies, counter-clockwise from upwards. */
function northOf(typed = ''): number {
  const degrees = Number(typed.replace(',', '.'));
  return Number.isFinite(degrees) ? degrees : 0;
}

function titlePen(builder: PageBuilder, fonts: FontSet, layer: number): TitlePen {
  const ink = builder.pen(0, INK);
  return {
    builder,
    layer,
    write(text, { size, font: chosen = 'sans', align = 'left' }, { x, y, room }) {
      const font = fonts.chosen(chosen);
      const natural = textAdvance(fonts, font, text) * emOf(fonts, font, size);
      // A long value is set narrower rather than lower, so that it stays as readable as its neighbours.
      const widthFactor = natural > room ? Math.max(0, room) / natural : 1;
      const look = { lines: [text], font, height: size, widthFactor, vertical: 'baseline', lineSpacing: 1 } as const;
      const anchor = align === 'left' ? x : align === 'right' ? x + room : x + room / 2;
      for (const placed of placeLettering(fonts, { ...look, horizontal: align }, translation(anchor, y))) {
        builder.text(placed.text, placed.box, layer, ink);
      }
    },
    line(x0, y0, x1, y1, widthMm = RULE_MM) {
      const path = linePath([x0, y0], [x1, y1]);
      builder.stroke(path, layer, builder.pen(widthMm, INK, [], false));
    },
  };
}

function inner({ xmin, ymin, xmax, ymax }: Box): Box {
  return { xmin: xmin + PADDING_MM, ymin: ymin + PADDING_MM, xmax: xmax - PADDING_MM, ymax: ymax - PADDING_MM };
}
