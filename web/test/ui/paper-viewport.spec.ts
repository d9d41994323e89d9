import { signal } from '@angular/core';
import { PaperViewport, type PaperViewportOptions } from '../../src/ui/paper-viewport';

/** A paper of 200 × 100 mm on a desk that fits it at `fitting` CSS pixels to a millimetre. */
function desk(fitting: number, options: Partial<PaperViewportOptions> = {}) {
  let measure: () => void = () => undefined;
  const observer = { observe: () => undefined, disconnect: () => undefined, unobserve: () => undefined };
  jest.spyOn(globalThis, 'ResizeObserver').mockImplementation((measured) => {
    measure = () => measured([], observer);
    return observer;
  });
  const viewport = new PaperViewport(signal({ width: 200, height: 100 }), { around: 10, ...options });
  const element = document.createElement('div');
  Object.defineProperties(element, {
    clientWidth: { value: 200 * fitting + 20 },
    clientHeight: { value: 100 * fitting + 20 },
  });
  viewport.attach(element, () => false);
  measure();
  return viewport;
}

describe('the desk', () => {
  afterEach(() => jest.restoreAllMocks());

  it('shows the whole paper, and at which size', () => {
    const viewport = desk(5);
    expect([viewport.pixelsPerMm(), viewport.width(), viewport.height()]).toEqual([5, 1000, 500]);
  });

  it('zooms out to half of the whole, and in as far as it is told', () => {
    const viewport = desk(5, { maxZoom: 4 });
    viewport.zoomBy(0.01);
    expect(viewport.pixelsPerMm()).toBe(2.5);
    viewport.zoomBy(100);
    expect(viewport.pixelsPerMm()).toBe(20);
    viewport.whole();
    expect(viewport.pixelsPerMm()).toBe(5);
  });

  it('shows a paper at its true size on a desk of any size, and zooms on from there', () => {
    const large = desk(12);
    large.scaleTo(4);
    expect(large.pixelsPerMm()).toBeCloseTo(4, 9);
    large.zoomBy(1.25);
    expect(large.pixelsPerMm()).toBeCloseTo(5, 9);
    const small = desk(0.5, { maxZoom: 4 });
    small.scaleTo(4);
    expect(small.pixelsPerMm()).toBeCloseTo(4, 9);
    small.zoomBy(0.5);
    expect(small.pixelsPerMm()).toBeCloseTo(2, 9);
  });
});
