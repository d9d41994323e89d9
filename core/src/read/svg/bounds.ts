import { apply, multiply, type Affine } from '../../geometry/affine';
import { boxOfLoops, emptyBox, intersection, isEmpty, mappedBox, union, type Box } from '../../geometry/box';
import { flattened } from '../../geometry/flatten';
import { mapPath } from '../../geometry/map-path';
import { CURVE, LINE, MOVE, Path } from '../../geometry/path';
import type { Block, Entity, FillEntity, PathEntity } from '../../drawing/model';
import { plainStyle } from '../paged';
import { withBulges } from './level';

/** How wide the letters of a text are on average, to its height (common practice). */
const LETTER_WIDTH = 0.5;

/**
 * The box around what entities of an SVG show, without the widths of their lines, as `map` takes it (SVG 1.1, 7.11); of
 * texts an estimate. Empty boxes come back as a point at the origin.
 */
export function boundsOf(entities: readonly Entity[], blocks: ReadonlyMap<string, Block>, map: Affine): Box {
  const box = emptyBox();
  for (const entity of entities) add(box, entity, blocks, map);
  return isEmpty(box) ? { xmin: 0, ymin: 0, xmax: 0, ymax: 0 } : box;
}

function add(box: Box, entity: Entity, blocks: ReadonlyMap<string, Block>, map: Affine): void {
  switch (entity.kind) {
    case 'path':
      return union(box, boxOfLoops(flattened(mapPath(pathOf(entity), map))));
    case 'picture':
      return union(box, mappedBox(multiply(map, entity.map), { xmin: 0, ymin: 0, xmax: 1, ymax: 1 }));
    case 'text': {
      const { x, y, height, lines } = entity;
      const width = Math.max(0, ...lines.map((line) => line.length)) * height * LETTER_WIDTH;
      return union(box, mappedBox(map, { xmin: x, ymin: y, xmax: x + width, ymax: y + height }));
    }
    case 'tilted':
      return add(box, entity.entity, blocks, multiply(map, entity.map));
    case 'insert': {
      const block = blocks.get(entity.block);
      if (!block || block.group === 'mask') return;
      const inner = boundsOf(block.entities, blocks, map);
      const edge = block.clip && boxOfLoops(block.clip.map((loop) => mappedLoop(loop, map)));
      if (block.entities.length > 0) union(box, edge ? intersection(inner, edge) : inner);
    }
  }
}

function mappedLoop(loop: Float64Array, map: Affine): number[] {
  return [...loop].flatMap((x, i) => (i % 2 ? [] : apply(map, x, loop[i + 1]!)));
}

function pathOf({ verbs, coords }: PathEntity): Path {
  const path = new Path();
  let at = 0;
  const next = (): number => coords[at++]!;
  for (const verb of verbs) {
    if (verb === MOVE) path.moveTo(next(), next());
    else if (verb === LINE) path.lineTo(next(), next());
    else if (verb === CURVE) path.curveTo(next(), next(), next(), next(), next(), next());
    else path.close();
  }
  return path;
}

/** An area that is black all over. */
export function blackBox(corners: Float64Array, layer: number): FillEntity {
  return { kind: 'fill', style: { ...plainStyle(layer), colour: 0 }, handle: '', loops: [withBulges(corners)] };
}
