import { multiply, IDENTITY, rotation, scaling, translation, type Affine } from '../geometry/affine';
import { resolve, topLevel, type Resolved } from '../drawing/resolve';
import { cellsOf, expandedSize } from '../drawing/expansion';
import type { Block, Drawing, Entity, InsertEntity, ShapeEntity } from '../drawing/model';

/**
 * Entities shown at most for one view: nested block references multiply. A reference that would exceed what is left of
 * this is skipped as a whole, before any of it is visited.
 */
const MAX_ENTITIES = 5_000_000;

/** What stopped a walk short, in words for a warning. */
export type WalkStop = 'cycle' | 'too-many' | 'missing-block';

/** Blocks whose references were left out, by the reason. */
export type WalkStops = ReadonlyMap<WalkStop, ReadonlySet<string>>;

/** Notes why a reference to a block was left out. */
export function addStop(stops: Map<WalkStop, Set<string>>, why: WalkStop, block: string): void {
  stops.set(why, (stops.get(why) ?? new Set()).add(block));
}

export interface Visitor {
  /** Called for each visible entity that is not a block reference, with its properties looked up. */
  entity(entity: ShapeEntity, looks: Resolved, map: Affine, inDimension: boolean): void;
  /** By how much block references in a dimension, its arrowheads, are larger than drawn. */
  grows?(looks: Resolved): number;
  stopped(why: WalkStop, block: string): void;
  /** Called before each entity listed in the space itself, with its number there. */
  listed?(index: number): void;
  /** Called before and after what shows only inside a clip (loops of x, y, mapped by `map`). */
  clipBegins?(loops: readonly Float64Array[], map: Affine): void;
  clipEnds?(): void;
  /** Called before and after what is painted together (see `Block.group`). */
  groupBegins?(group: NonNullable<Block['group']>): void;
  groupEnds?(group: NonNullable<Block['group']>): void;
  /** Called before and after what a block reference of the space itself shows, once for each cell of an array. */
  blockBegins?(block: Block, map: Affine): void;
  blockEnds?(): void;
}

interface Level {
  entities: readonly Entity[];
  next: number;
  map: Affine;
  outer: Resolved;
  /** The reference whose block this level shows, the cell of its array now shown, and the map outside it. */
  reference?: { insert: InsertEntity; block: Block; cell: number; outside: Affine };
  /** True in the block of a dimension, not in blocks within it. */
  inDimension: boolean;
  /** The hidden layer of a reference around it, which hides whatever it shows. */
  under?: number;
}

/** DXF: names of the blocks that dimensions are drawn with begin so. */
const DIMENSION_BLOCK = /^\*d/i;

/**
 * Visits the visible entities of a space in painting order, block references opened to any depth without recursion.
 * Layers that are off hide what lies on them; frozen ones, and those in `hidden` (names in lower case), hide whole
 * block references too; layers that do not plot are left out. With `everything` hidden layers are visited too; what a
 * hidden reference hides counts as lying on its layer.
 */
export function walk(
  drawing: Drawing,
  entities: readonly Entity[],
  visitor: Visitor,
  hidden: ReadonlySet<string> = new Set(),
  everything = false,
): void {
  const frozen = drawing.layers.map((layer) => layer.frozen || hidden.has(layer.name.toLowerCase()));
  const invisible = drawing.layers.map((layer, i) =>
    everything ? !layer.plots : frozen[i] || layer.off || !layer.plots,
  );
  const open = new Set<string>();
  const levels: Level[] = [{ entities, next: 0, map: IDENTITY, outer: topLevel(), inDimension: false }];
  let budget = MAX_ENTITIES;
  while (levels.length > 0) {
    const level = levels[levels.length - 1]!;
    if (levels.length === 1) visitor.listed?.(level.next);
    const listed = level.entities[level.next++];
    if (listed === undefined) {
      const { clip, group } = level.reference?.block ?? {};
      if (group) visitor.groupEnds?.(group);
      if (clip) visitor.clipEnds?.();
      if (levels.length === 2) visitor.blockEnds?.();
      if (toNextCell(level)) {
        if (levels.length === 2) visitor.blockBegins?.(level.reference!.block, level.map);
        if (clip) visitor.clipBegins?.(clip, level.map);
        if (group) visitor.groupBegins?.(group);
        continue;
      }
      if (level.reference) open.delete(level.reference.insert.block);
      levels.pop();
      continue;
    }
    if (budget-- <= 0) {
      for (const { reference } of levels.reverse()) {
        const { clip, group } = reference?.block ?? {};
        if (group) visitor.groupEnds?.(group);
        if (clip) visitor.clipEnds?.();
      }
      visitor.blockEnds?.();
      return visitor.stopped('too-many', level.reference?.block.name ?? '');
    }
    // What is seen through a viewport is placed where the layout is composed.
    if (listed.kind === 'viewport') continue;
    const tilted = listed.kind === 'tilted';
    const entity = tilted ? listed.entity : listed;
    const map = tilted ? multiply(level.map, listed.map) : level.map;
    const looks = resolve(drawing, entity.style, level.outer);
    const under = (own: Resolved): Resolved => (level.under === undefined ? own : { ...own, layer: level.under });
    if (entity.kind !== 'insert') {
      if (!invisible[looks.layer]) visitor.entity(entity, under(looks), map, level.inDimension);
      continue;
    }
    if (frozen[looks.layer] && !everything) continue;
    const hides = level.under ?? (frozen[looks.layer] ? looks.layer : undefined);
    for (const attribute of entity.attributes) {
      const own = resolve(drawing, attribute.style, looks);
      if (!invisible[own.layer])
        visitor.entity(attribute, hides === undefined ? own : { ...own, layer: hides }, map, false);
    }
    const block = drawing.blocks.get(entity.block);
    if (!block) visitor.stopped('missing-block', entity.block);
    else if (open.has(entity.block)) visitor.stopped('cycle', block.name);
    else if (cellsOf(entity) * expandedSize(drawing, entity.block) > budget) visitor.stopped('too-many', block.name);
    else if (block.entities.length > 0) {
      open.add(entity.block);
      const grown = level.inDimension ? (visitor.grows?.(looks) ?? 1) : 1;
      const insert = grown === 1 ? entity : { ...entity, scaleX: entity.scaleX * grown, scaleY: entity.scaleY * grown };
      const reference = { insert, block, cell: 0, outside: map };
      const inner = cellMap(reference);
      if (levels.length === 1) visitor.blockBegins?.(block, inner);
      if (block.clip) visitor.clipBegins?.(block.clip, inner);
      if (block.group) visitor.groupBegins?.(block.group);
      const inDimension = DIMENSION_BLOCK.test(block.name);
      const above = hides === undefined ? {} : { under: hides };
      levels.push({ entities: block.entities, next: 0, map: inner, outer: looks, reference, inDimension, ...above });
    }
  }
}

/** Begins the next cell of an arrayed reference; false when there is none left. */
function toNextCell(level: Level): boolean {
  const { reference } = level;
  if (!reference || reference.cell + 1 >= reference.insert.columns * reference.insert.rows) return false;
  reference.cell++;
  level.next = 0;
  level.map = cellMap(reference);
  return true;
}

/** Map of one cell of a (possibly arrayed) block reference. Array spacing turns with it but is not scaled by it. */
function cellMap({ insert, block, cell, outside }: NonNullable<Level['reference']>): Affine {
  const column = cell % insert.columns;
  const row = Math.floor(cell / insert.columns);
  const turned = multiply(translation(insert.x, insert.y), rotation(insert.rotation));
  const placed = multiply(turned, translation(column * insert.columnSpacing, row * insert.rowSpacing));
  const local = multiply(
    multiply(placed, scaling(insert.scaleX, insert.scaleY)),
    translation(-block.baseX, -block.baseY),
  );
  return multiply(outside, local);
}
