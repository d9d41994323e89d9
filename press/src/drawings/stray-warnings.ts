import type { Extents, Problem } from '@folvex/core';

/** What is said of entities that lie so far off that they do not count for the size of their drawing. */
export function strayWarnings(strays: Extents['strays'], file: string): Problem[] {
  const [first] = strays;
  if (!first) return [];
  const what = strays.length === 1 ? 'An entity lies' : `${strays.length} entities lie`;
  const sentence = `${what} far away from everything else and does not count for the size of ${file}; delete it there if it is a mistake.`;
  const place = { file, handle: first.handle, at: [first.x, first.y] as [number, number] };
  return [{ code: 'drawing.stray', sentence, place, count: strays.length }];
}
