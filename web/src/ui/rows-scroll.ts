import {
  VIRTUAL_SCROLL_STRATEGY,
  type CdkVirtualScrollViewport,
  type VirtualScrollStrategy,
} from '@angular/cdk/scrolling';
import { Directive, effect, forwardRef, input } from '@angular/core';
import { distinctUntilChanged, Subject } from 'rxjs';

/** Pixels above and below what is seen that are rendered too. */
const BUFFER_PX = 900;

/** Renders the rows of a virtual list that are near what is seen; each row has a height of its own, known beforehand. */
class RowsScrollStrategy implements VirtualScrollStrategy {
  private readonly index = new Subject<number>();
  readonly scrolledIndexChange = this.index.pipe(distinctUntilChanged());
  private viewport: CdkVirtualScrollViewport | null = null;
  /** Where each row begins, and where the last one ends. */
  private tops: readonly number[] = [0];

  setHeights(heights: readonly number[]): void {
    const tops = [0];
    for (const height of heights) tops.push(tops.at(-1)! + height);
    this.tops = tops;
    this.onDataLengthChanged();
  }

  attach(viewport: CdkVirtualScrollViewport): void {
    this.viewport = viewport;
    this.onDataLengthChanged();
  }

  detach(): void {
    this.index.complete();
    this.viewport = null;
  }

  onContentScrolled(): void {
    this.render();
  }

  onDataLengthChanged(): void {
    this.viewport?.setTotalContentSize(this.tops.at(-1)!);
    this.render();
  }

  onContentRendered(): void {}

  onRenderedOffsetChanged(): void {}

  scrollToIndex(index: number, behavior: ScrollBehavior): void {
    this.viewport?.scrollToOffset(this.tops[index] ?? 0, behavior);
  }

  /** Brings a row into sight, with as little scrolling as possible. */
  show(index: number): void {
    const { viewport, tops } = this;
    if (!viewport) return;
    const [from, size] = [viewport.measureScrollOffset(), viewport.getViewportSize()];
    const [top, bottom] = [tops[index] ?? 0, tops[index + 1] ?? 0];
    if (top < from) viewport.scrollToOffset(top);
    else if (bottom > from + size) viewport.scrollToOffset(bottom - size);
  }

  private render(): void {
    const { viewport, tops } = this;
    if (!viewport) return;
    const from = viewport.measureScrollOffset();
    const to = from + viewport.getViewportSize();
    const start = this.rowAt(from - BUFFER_PX);
    const end = Math.min(tops.length - 1, this.rowAt(to + BUFFER_PX) + 1);
    viewport.setRenderedRange({ start, end });
    viewport.setRenderedContentOffset(tops[start]!);
    this.index.next(this.rowAt(from));
  }

  /** The row at a height, the first or last one beyond them. */
  private rowAt(y: number): number {
    let [low, high] = [0, Math.max(0, this.tops.length - 2)];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.tops[middle]! <= y) low = middle;
      else high = middle - 1;
    }
    return low;
  }
}

/** Tells a virtual list the heights of its rows, CSS pixels. */
@Directive({
  selector: 'cdk-virtual-scroll-viewport[fxRowHeights]',
  exportAs: 'fxRowHeights',
  providers: [
    {
      provide: VIRTUAL_SCROLL_STRATEGY,
      useFactory: (rows: RowHeights) => rows.strategy,
      deps: [forwardRef(() => RowHeights)],
    },
  ],
})
export class RowHeights {
  readonly fxRowHeights = input.required<readonly number[]>();
  readonly strategy = new RowsScrollStrategy();

  constructor() {
    effect(() => this.strategy.setHeights(this.fxRowHeights()));
  }
}
