import { Injectable } from '@angular/core';
import { wrap, type Remote } from 'comlink';
import type { Box, ColourMode } from '@folvex/core';
import type { PageEngine, PageSource, Painted, PaintedPart } from './protocol';
import { startPageWorker } from './start-worker';

export type { PageSource, Painted, PaintedPart } from './protocol';

/** Paints pages outside the interface's thread. */
@Injectable({ providedIn: 'root' })
export class Engine {
  private worker: Remote<PageEngine> | undefined;

  paint(source: PageSource, widthPx: number, colour: ColourMode): Promise<Painted> {
    return this.started().paint(source, widthPx, colour);
  }

  paintPart(source: PageSource, part: Box, pixelsPerMm: number, colour: ColourMode): Promise<PaintedPart> {
    return this.started().paintPart(source, part, pixelsPerMm, colour);
  }

  private started(): Remote<PageEngine> {
    return (this.worker ??= wrap<PageEngine>(startPageWorker()));
  }
}
