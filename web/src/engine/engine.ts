import { Injectable } from '@angular/core';
import { wrap, type Remote } from 'comlink';
import type { ColourMode } from '@folvex/core';
import type { PageEngine, PageSource, Painted } from './protocol';
import { startPageWorker } from './start-worker';

export type { PageSource, Painted } from './protocol';

/** Paints pages outside the interface's thread. */
@Injectable({ providedIn: 'root' })
export class Engine {
  private worker: Remote<PageEngine> | undefined;

  paint(source: PageSource, widthPx: number, colour: ColourMode): Promise<Painted> {
    this.worker ??= wrap<PageEngine>(startPageWorker());
    return this.worker.paint(source, widthPx, colour);
  }
}
