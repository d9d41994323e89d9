import { Injectable } from '@angular/core';
import { wrap, type Remote } from 'comlink';
import type { Box, ColourMode, PenSchedule } from '@folvex/core';
import type { LineCount, PageEngine, PageSource, Painted, PaintedPart } from './protocol';
import { startPageWorker } from './start-worker';

export type { LineCount, PageSource, Painted, PaintedPart } from './protocol';

/** Paints pages outside the interface's thread. */
@Injectable({ providedIn: 'root' })
export class Engine {
  private worker: Remote<PageEngine> | undefined;

  paint(source: PageSource, widthPx: number, colour: ColourMode): Promise<Painted> {
    return this.started().paint(source, widthPx, colour);
  }

  paintPart(
    source: PageSource,
    part: Box,
    pixelsPerMm: number,
    colour: ColourMode,
    schedule?: PenSchedule,
  ): Promise<PaintedPart> {
    return this.started().paintPart(source, part, pixelsPerMm, colour, schedule);
  }

  linesUsed(source: PageSource): Promise<LineCount[]> {
    return this.started().linesUsed(source);
  }

  private started(): Remote<PageEngine> {
    return (this.worker ??= wrap<PageEngine>(startPageWorker()));
  }
}
