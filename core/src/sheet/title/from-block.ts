import { height, width, type Box } from '../../geometry/box';
import type { Block, Drawing } from '../../drawing/model';
import { MM_PER_UNIT } from '../../measure/units';
import type { FontSet } from '../../text/layout';
import { visibleExtents } from '../extents';
import { meaningOf } from './meanings';
import type { TitleCell, TitleTemplate } from './template';

/** A block of a drawing that can become a title block: its size and its blanks, mm on the paper. */
export interface BlockFacts {
  name: string;
  width: number;
  height: number;
  blanks: BlankFacts[];
}

/** A blank of a block, mm from the block's lower left corner. */
export interface BlankFacts {
  tag: string;
  prompt: string;
  x: number;
  /** Of the baseline. */
  y: number;
  /** Of capitals. */
  size: number;
  align: 'left' | 'centre' | 'right';
}

/** With fewer blanks than this a block is more likely a symbol than a title block. */
const FEWEST_BLANKS = 3;
const MAX_BLOCKS = 20;
/** A block larger than this is drawn at the size of what is built; it is brought down to the widest usual block, mm. */
const MAX_MM = 1000;
const USUAL_MM = 180;
/** The blocks of a drawing that can become title blocks, those with the most blanks first. */
export function titleBlocksIn(drawing: Drawing, fonts: FontSet): BlockFacts[] {
  const found: BlockFacts[] = [];
  for (const block of drawing.blocks.values()) {
    if ((block.attributes?.length ?? 0) < FEWEST_BLANKS) continue;
    const extents = visibleExtents(drawing, block.entities, fonts);
    if (extents && width(extents) > 0 && height(extents) > 0) found.push(factsOf(block, extents, drawing));
  }
  return found.sort((a, b) => b.blanks.length - a.blanks.length).slice(0, MAX_BLOCKS);
}

function factsOf({ name, attributes = [] }: Block, extents: Box, { unit }: Drawing): BlockFacts {
  const stated = MM_PER_UNIT[unit ?? 'mm'];
  const mm = width(extents) * stated > MAX_MM ? USUAL_MM / width(extents) : stated;
  const blanks = attributes.map(({ tag, prompt, text }): BlankFacts => {
    const { horizontal, vertical } = text;
    const drop = vertical === 'top' ? text.height : vertical === 'middle' ? text.height / 2 : 0;
    return {
      tag,
      prompt,
      x: (text.x - extents.xmin) * mm,
      y: (text.y - drop - extents.ymin) * mm,
      size: text.height * mm,
      align: horizontal === 'centre' || horizontal === 'right' ? horizontal : 'left',
    };
  });
  return { name, width: width(extents) * mm, height: height(extents) * mm, blanks };
}

/**
 * A template that shows a block of a drawing and fills its blanks with what is known; a tag with no known meaning is
 * typed for each sheet.
 */
export function templateFromBlock(id: string, drawing: string, block: BlockFacts): TitleTemplate {
  const taken = new Set<string>();
  const cells = block.blanks.map((blank): TitleCell => {
    const meaning = meaningOf(blank.tag, taken);
    if (meaning) taken.add(meaning);
    const field = meaning ?? `block.${blank.tag.toLowerCase().replace(/[^a-z0-9]+/g, '-')}`;
    return { ...spaceOf(blank, block), plain: true, text: `[${field}]`, size: blank.size, align: blank.align };
  });
  const ground: TitleCell = {
    left: 0,
    bottom: 0,
    right: 0,
    top: 0,
    plain: true,
    kind: 'drawing',
    drawing,
    block: block.name,
  };
  const { name, width: wide, height: high } = block;
  return { id, name, place: 'corner', width: wide, height: high, cells: [ground, ...cells] };
}

/** The cell whose text is at the place of a blank. */
function spaceOf({ x, y, size, align }: BlankFacts, { width: wide, blanks }: BlockFacts): TitleCell {
  const pad = 1.6;
  // So high that the text has no room to be raised to the middle (see `fillCell`).
  const [bottom, tall] = [y - pad, size + 2 * pad];
  const right = Math.min(
    wide,
    ...blanks.filter((other) => other.x > x && Math.abs(other.y - y) < size).map((other) => other.x),
  );
  if (align === 'left') return { left: x - pad, width: Math.max(4 * size, right - x), bottom, height: tall };
  const half = Math.min(x, wide - x);
  return align === 'centre'
    ? { left: x - half, width: 2 * half, bottom, height: tall }
    : { left: 0, width: x + pad, bottom, height: tall };
}
