import type { Box, ColourMode, RuleSubject, PenSchedule, Problem } from '@folvex/core';

export type LineCount = RuleSubject & { count: number };

/** A page to paint: where it is, and the key of its present state. */
export interface PageSource {
  url: string;
  version: string;
}

export type Painted =
  { ok: true; picture: ImageBitmap; widthMm: number; heightMm: number } | { ok: false; problem: Problem };

/** `milliseconds`: what painting took in the thread that paints. */
export type PaintedPart = { ok: true; picture: ImageBitmap; milliseconds: number } | { ok: false; problem: Problem };

export interface PageEngine {
  /** Paints a page `widthPx` device pixels wide, as it is printed in a colour mode. */
  paint(source: PageSource, widthPx: number, colour: ColourMode): Promise<Painted>;
  /** Paints a part of a page (mm), `pixelsPerMm` device pixels to a mm, with the pens of a schedule. */
  paintPart(
    source: PageSource,
    part: Box,
    pixelsPerMm: number,
    colour: ColourMode,
    schedule?: PenSchedule,
  ): Promise<PaintedPart>;
  /** How many lines a page has of each layer, colour and weight as drawn. */
  linesUsed(source: PageSource): Promise<LineCount[]>;
}
