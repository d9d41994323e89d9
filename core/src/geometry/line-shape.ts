/** How a line ends and turns (ISO 32000-2, 8.4.3.3 to 8.4.3.5). */
export interface LineShape {
  cap: 'butt' | 'round' | 'square';
  join: 'miter' | 'round' | 'bevel';
  /** A mitre that would be longer than this many widths of the line is cut off. */
  miterLimit: number;
}
