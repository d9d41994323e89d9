import type { Box } from '@folvex/core';

/** Millimetres between the places that are tried. */
const STEP = 2;

/**
 * The lower left corner for a new cell of a title block, mm: the lowest free place, leftmost of those. The corner of the
 * block where no place is free.
 */
export function freeCellPlace(
  cells: readonly Box[],
  block: { width: number; height: number },
  cell: { width: number; height: number },
): { left: number; bottom: number } {
  for (let bottom = 0; bottom + cell.height <= block.height; bottom += STEP) {
    for (let left = 0; left + cell.width <= block.width; left += STEP) {
      const taken = cells.some(
        ({ xmin, ymin, xmax, ymax }) =>
          xmin < left + cell.width && xmax > left && ymin < bottom + cell.height && ymax > bottom,
      );
      if (!taken) return { left, bottom };
    }
  }
  return { left: 0, bottom: 0 };
}
