/** How a line ends and turns (ISO 32000-2, 8.4.3.3 to 8.4.3.5). */
export interface LineShape {
  cap: 'butt' | 'round' | 'square';
  join: 'miter' | 'round' | 'bevel';
  /** A mitre that would be longer than this many widths of the line is cut off. */
  miterLimit: number;
}

/** How far from its path a line reaches at most: corners of square ends and tips of mitres stand out. */
export function lineReach(width: number, { cap, join, miterLimit }: LineShape): number {
  return (width / 2) * Math.max(1, cap === 'square' ? Math.SQRT2 : 1, join === 'miter' ? miterLimit : 1);
}
