/**
 * Id of the tile next to one, by where they are on the screen; undefined at the edge.
 * The direction is a unit step, x to the right and y up.
 */
export function neighbour(
  tiles: Iterable<HTMLElement>,
  from: string,
  [dx, dy]: readonly [number, number],
): string | undefined {
  const all = [...tiles];
  const at = all.findIndex((tile) => tile.dataset['id'] === from);
  if (at < 0) return undefined;
  if (dx !== 0) return all[at + dx]?.dataset['id'];
  const own = centre(all[at]!);
  const beyond = all
    .map((tile) => ({ tile, middle: centre(tile) }))
    .filter(({ tile, middle }) => -dy * (middle.y - own.y) > tile.offsetHeight / 2)
    .map(({ tile, middle }) => ({ tile, far: 3 * Math.abs(middle.y - own.y) + Math.abs(middle.x - own.x) }))
    .sort((a, b) => a.far - b.far);
  return beyond[0]?.tile.dataset['id'];
}

function centre(tile: HTMLElement): { x: number; y: number } {
  const { left, right, top, bottom } = tile.getBoundingClientRect();
  return { x: (left + right) / 2, y: (top + bottom) / 2 };
}
