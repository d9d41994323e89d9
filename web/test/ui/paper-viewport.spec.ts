import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { PaperViewport, type PaperViewportOptions } from '../../src/ui/paper-viewport';

/** A paper of 200 × 100 mm on a desk that fits it at `fitting` CSS pixels to a millimetre. */
function desk(fitting: number, options: Partial<PaperViewportOptions> = {}) {
  let measure: () => void = () => undefined;
  const observer = { observe: () => undefined, disconnect: () => undefined, unobserve: () => undefined };
  jest.spyOn(globalThis, 'ResizeObserver').mockImplementation((measured) => {
    measure = () => measured([], observer);
    return observer;
  });
  const viewport = TestBed.runInInjectionContext(
    () => new PaperViewport(signal({ width: 200, height: 100 }), { around: 10, ...options }),
  );
  const element = document.createElement('div');
  Object.defineProperties(element, {
    clientWidth: { value: 200 * fitting + 20 },
    clientHeight: { value: 100 * fitting + 20 },
  });
  viewport.attach(element, () => false);
  measure();
  return { viewport, element };
}

/** The paper on a desk, as a browser lays it out: it moves at once, and has its new size only when it is rendered. */
function lay({ viewport, element }: ReturnType<typeof desk>) {
  const sheet = element.appendChild(document.createElement('div'));
  sheet.className = 'sheet';
  const shown = { left: 10, top: 10, width: viewport.width() };
  sheet.getBoundingClientRect = () => new DOMRect(shown.left, shown.top, shown.width, shown.width / 2);
  element.scrollBy = ((dx: number, dy: number) => {
    shown.left -= dx;
    shown.top -= dy;
  }) as HTMLElement['scrollBy'];
  const render = (): void => {
    shown.width = viewport.width();
    TestBed.tick();
  };
  render();
  return { shown, render };
}

describe('the desk', () => {
  afterEach(() => jest.restoreAllMocks());

  it('shows the whole paper, and at which size', () => {
    const { viewport } = desk(5);
    expect([viewport.pixelsPerMm(), viewport.width(), viewport.height()]).toEqual([5, 1000, 500]);
  });

  it('zooms out to half of the whole, and in as far as it is told', () => {
    const { viewport } = desk(5, { maxZoom: 4 });
    viewport.zoomBy(0.01);
    expect(viewport.pixelsPerMm()).toBe(2.5);
    viewport.zoomBy(100);
    expect(viewport.pixelsPerMm()).toBe(20);
    viewport.whole();
    expect(viewport.pixelsPerMm()).toBe(5);
  });

  it('shows a paper at its true size on a desk of any size, and zooms on from there', () => {
    const { viewport: large } = desk(12);
    large.scaleTo(4);
    expect(large.pixelsPerMm()).toBeCloseTo(4, 9);
    large.zoomBy(1.25);
    expect(large.pixelsPerMm()).toBeCloseTo(5, 9);
    const { viewport: small } = desk(0.5, { maxZoom: 4 });
    small.scaleTo(4);
    expect(small.pixelsPerMm()).toBeCloseTo(4, 9);
    small.zoomBy(0.5);
    expect(small.pixelsPerMm()).toBeCloseTo(2, 9);
  });

  it('keeps what lies under the pointer however many steps come before the next rendering', () => {
    const at = { clientX: 410, clientY: 110 };
    const placed = desk(5);
    const { viewport } = placed;
    const { shown, render } = lay(placed);
    // 400 px right of the corner at 5 px/mm: 80 mm.
    viewport.zoomBy(1.5, at);
    viewport.zoomBy(2, at, [30, 20]);
    viewport.panBy(7, -5);
    render();
    expect(shown.width).toBe(3000);
    expect(shown.left + 80 * 15).toBeCloseTo(at.clientX + 37, 6);
    expect(shown.top + 20 * 15).toBeCloseTo(at.clientY + 15, 6);
    // A step there and back leaves the size as it was; the next move is not lost in it.
    viewport.zoomBy(2, at);
    viewport.zoomBy(0.5, at);
    render();
    const { left } = shown;
    viewport.panBy(50, 0);
    expect(shown.left).toBe(left + 50);
  });
});
