import { height, width, type Box } from '../geometry/box';
import type { Drawing } from '../drawing/model';
import type { PageBuilder } from '../page/builder';
import type { FontSet } from '../text/layout';
import { visibleExtents } from './extents';
import { placeView, windowToPaper } from './place-view';

/** All that is visible of a drawing's model, or of a block of it, as large as it goes in the middle of a box. */
export function drawFitted(builder: PageBuilder, fonts: FontSet, drawing: Drawing, box: Box, block?: string): void {
  const entities = (block === undefined ? drawing.spaces[0] : drawing.blocks.get(block.toLowerCase()))?.entities ?? [];
  const window = visibleExtents(drawing, entities, fonts, new Set());
  if (!window || !(width(window) > 0 || height(window) > 0)) return;
  const factor = Math.min(width(box) / width(window), height(box) / height(window));
  const x = (box.xmin + box.xmax - width(window) * factor) / 2;
  const y = (box.ymin + box.ymax - height(window) * factor) / 2;
  placeView(builder, fonts, drawing, entities, windowToPaper(window, 1, factor, x, y), box, new Set());
}
