import type { CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { RowHeights } from '../../src/ui/rows-scroll';

/** A viewport of 600 px over rows that are 100 and 300 px high in turn, scrolled to `top`. */
function scrolled(rows: number, top: number) {
  TestBed.resetTestingModule().configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  const { strategy } = TestBed.runInInjectionContext(() => new RowHeights());
  const seen = { size: 0, range: { start: 0, end: 0 }, offset: 0, top };
  strategy.attach({
    measureScrollOffset: () => seen.top,
    getViewportSize: () => 600,
    setTotalContentSize: (size: number) => (seen.size = size),
    setRenderedRange: (range: { start: number; end: number }) => (seen.range = range),
    setRenderedContentOffset: (offset: number) => (seen.offset = offset),
    scrollToOffset: (to: number) => (seen.top = to),
  } as unknown as CdkVirtualScrollViewport);
  strategy.setHeights(Array.from({ length: rows }, (_, i) => (i % 2 ? 300 : 100)));
  return { seen, strategy };
}

describe('rows of different heights', () => {
  it('are rendered where they are seen, and 900 px around', () => {
    const { seen } = scrolled(100, 10_000);
    expect(seen.size).toBe(20_000);
    // A pair of rows is 400 px high: 9100 lies in row 45, from 8900 to 9200.
    expect(seen.range).toEqual({ start: 45, end: 58 });
    expect(seen.offset).toBe(8_900);
  });

  it('at the ends are not passed', () => {
    expect(scrolled(4, 0).seen.range).toEqual({ start: 0, end: 4 });
    expect(scrolled(100, 19_400).seen.range.end).toBe(100);
    expect(scrolled(0, 0).seen.range).toEqual({ start: 0, end: 0 });
  });

  it('report the first one in sight, once', () => {
    const { seen, strategy } = scrolled(100, 0);
    const indices: number[] = [];
    strategy.scrolledIndexChange.subscribe((index) => indices.push(index));
    for (const top of [0, 50, 120, 400]) {
      seen.top = top;
      strategy.onContentScrolled();
    }
    expect(indices).toEqual([0, 1, 2]);
  });

  it.each([
    ['above', 5_000, 10, 2_000],
    ['below', 0, 10, 1_500],
    ['in sight', 1_900, 10, 1_900],
  ])('are brought into sight with as little scrolling as possible: one %s', (_, top, index, expected) => {
    const { seen, strategy } = scrolled(100, top);
    strategy.show(index);
    expect(seen.top).toBe(expected);
  });

  it('are scrolled to by their index', () => {
    const { seen, strategy } = scrolled(100, 0);
    strategy.scrollToIndex(7, 'auto');
    expect(seen.top).toBe(1_300);
    strategy.detach();
    strategy.show(0);
    expect(seen.top).toBe(1_300);
  });
});
