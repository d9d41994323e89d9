import type { Problem } from '@folvex/core';

/** What is seen of a drawing's page: `x`, `y` (mm of the page) in the middle, `scale` device pixels to a mm. */
export interface DrawingViewport {
  x: number;
  y: number;
  scale: number;
  widthPx: number;
  heightPx: number;
}

export interface LayerCount {
  name: string;
  marks: number;
}

export type OpenedDrawing =
  | { ok: true; widthMm: number; heightMm: number; marks: number; layers: LayerCount[] }
  | { ok: false; problem: Problem };

/** A mark near a point. */
export interface Picked {
  /** Number of the entity in its space. */
  tag: number;
  /** Box around all marks of the entity, mm of the page. */
  box: [number, number, number, number];
}

export interface DrawingEngine {
  open(url: string): Promise<OpenedDrawing>;
  /** Paints what is seen, layers in `hidden` (by number) left out, the entity `chosen` marked. */
  paint(outlook: DrawingViewport, hidden: number[], chosen: number | null): Promise<ImageBitmap>;
  /** The mark nearest to a point within `reach` mm, the topmost of several. */
  pick(x: number, y: number, reach: number, hidden: number[]): Picked | null;
  /** An entity by its number; null where the page has no mark of it. */
  find(tag: number): Picked | null;
  /** The end of a line nearest to a point within `reach` mm. */
  snap(x: number, y: number, reach: number, hidden: number[]): [number, number] | null;
}
