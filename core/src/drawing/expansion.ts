import type { Drawing, Entity } from './model';

/** Expanded sizes of blocks by their key, counted once for each drawing. */
const known = new WeakMap<Drawing['blocks'], Map<string, number>>();

/**
 * How many entities a block comes to with every reference in it expanded, arrays cell by cell; 0 for a block that does
 * not exist. A reference to a block around it counts as one entity. Without recursion: blocks may be nested thousands deep.
 */
export function expandedSize({ blocks }: Pick<Drawing, 'blocks'>, key: string): number {
  let sizes = known.get(blocks);
  if (!sizes) known.set(blocks, (sizes = new Map()));
  const open = new Set<string>();
  const waiting = [key];
  while (waiting.length > 0) {
    const block = waiting.at(-1)!;
    if (sizes.has(block)) {
      waiting.pop();
      continue;
    }
    const entities = blocks.get(block)?.entities ?? [];
    if (!open.has(block)) {
      open.add(block);
      const inner = entities.flatMap((entity) => referenceIn(entity)?.block ?? []);
      const missing = [...new Set(inner)].filter((one) => !sizes.has(one) && !open.has(one));
      for (const one of missing) waiting.push(one);
      if (missing.length > 0) continue;
    }
    waiting.pop();
    open.delete(block);
    let size = 0;
    for (const entity of entities) {
      const reference = referenceIn(entity);
      size += 1 + (reference ? cellsOf(reference) * (sizes.get(reference.block) ?? 0) : 0);
    }
    sizes.set(block, size);
  }
  return sizes.get(key)!;
}

/** How many times a reference shows its block. */
export function cellsOf({ columns, rows }: { columns: number; rows: number }): number {
  return columns * rows;
}

function referenceIn(entity: Entity): Extract<Entity, { kind: 'insert' }> | undefined {
  const plain = entity.kind === 'tilted' ? entity.entity : entity;
  return plain.kind === 'insert' ? plain : undefined;
}
