import type { PageBuilder } from '../../page/builder';
import type { TitleCell } from './template';

/** Padding of a cell, mm. */
export const PADDING_MM = 1.6;

/** Draws into a title block; lengths in mm. */
export interface TitlePen {
  builder: PageBuilder;
  layer: number;
  /** A line of text from a point to the right, set narrower where it is longer than `room`. */
  write(text: string, look: { size: number; font?: string; align?: TitleCell['align'] }, at: TextPlace): void;
  line(x0: number, y0: number, x1: number, y1: number, widthMm?: number): void;
}

/** Where a line of text begins, and how much room it has, mm. */
export interface TextPlace {
  x: number;
  y: number;
  room: number;
}
