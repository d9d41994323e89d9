import type { Extents, Problem } from '@folvex/core';

/** The warning about entities too far away to count for the size of their drawing. */
export function strayWarnings(strays: Extents['strays'], file: string): Problem[] {
  const [first] = strays;
  if (!first) return [];
  const [what, are, them] =
    strays.length === 1 ? ['An entity lies', 'is', 'it'] : [`${strays.length} entities lie`, 'are', 'them'];
  const sentence = `${what} far away from everything else and ${are} left out of the size of ${file}; delete ${them} there if that is a mistake.`;
  const place = { file, handle: first.handle, at: [first.x, first.y] as [number, number] };
  return [{ code: 'drawing.stray', sentence, place, count: strays.length }];
}
