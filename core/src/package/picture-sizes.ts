/** A picture of a sheet as it would go into a file untouched. */
export interface PictureFacts {
  /** The same key means the same picture, of which a file holds one. */
  key: string;
  bytes: number;
  /** Dots to the inch where it is placed largest. */
  dpi: number;
  /** Dots to the inch at most that its view asks for, whatever the recipe says. */
  limit?: number;
}

/** Resolutions for which sizes are estimated, dots per inch (common practice). */
export const RESOLUTIONS = [72, 100, 150, 200, 300, 400, 600, 800, 1200] as const;

/**
 * Bytes that pictures take at a resolution: the size of one grows with the square of its dots per inch (common
 * practice), and no more than it has. Each counts once, at its largest.
 */
export function estimateBytes(pictures: readonly PictureFacts[], dpi: number): number {
  const unique = new Map<string, PictureFacts>();
  for (const picture of pictures) {
    const known = unique.get(picture.key);
    if (!known || picture.dpi < known.dpi) unique.set(picture.key, picture);
  }
  return [...unique.values()].reduce(
    (sum, one) => sum + one.bytes * Math.min(1, ((one.limit ?? dpi) / one.dpi) ** 2),
    0,
  );
}
