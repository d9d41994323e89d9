import { Injectable } from '@angular/core';
import { wrap, type Remote } from 'comlink';
import type { ChangedArea } from '@folvex/core';
import type { CompareEngine } from '../../engine/compare.worker';
import { startCompareWorker } from '../../engine/start-worker';
import type { PdfFile } from './pdf-file';

/** A page of a file. */
export interface FilePage {
  file: PdfFile;
  page: number;
}

export interface ComparedPage {
  /** The page as it was. */
  before: HTMLCanvasElement;
  differences: ImageData;
  areas: ChangedArea[];
}

/** Compared pictures are as wide as the page is shown, within these, pixels. */
const [MIN_PX, MAX_PX] = [1000, 4800];
/** Papers that differ by less are the same, mm. */
const SAME_MM = 0.5;

/** Compares pages of two files as they look. */
@Injectable({ providedIn: 'root' })
export class PageComparer {
  private engine: Remote<CompareEngine> | undefined;

  /** Null where the papers differ: then there is nothing to lay over. */
  async compare(before: FilePage, after: FilePage, shownPx: number): Promise<ComparedPage | null> {
    const [was, is] = await Promise.all([before.file.paper(before.page), after.file.paper(after.page)]);
    if (Math.abs(was.width - is.width) > SAME_MM || Math.abs(was.height - is.height) > SAME_MM) return null;
    const wide = Math.round(Math.min(MAX_PX, Math.max(MIN_PX, shownPx)));
    const [one, other] = await Promise.all([
      before.file.picture(before.page, wide),
      after.file.picture(after.page, wide),
    ]);
    const { width, height } = other;
    const pixels = (canvas: HTMLCanvasElement): Uint8ClampedArray =>
      canvas.getContext('2d')!.getImageData(0, 0, width, height).data;
    this.engine ??= wrap<CompareEngine>(startCompareWorker());
    const { picture, areas } = await this.engine.compare({ before: pixels(one), after: pixels(other), width, height });
    return { before: one, differences: new ImageData(picture, width, height), areas };
  }
}
