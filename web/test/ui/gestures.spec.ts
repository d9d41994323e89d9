import { watchGestures, type GestureStep } from '../../src/ui/gestures';

function watched(begins: (event: MouseEvent | TouchEvent) => boolean = () => true) {
  const element = document.createElement('div');
  document.body.append(element);
  jest.spyOn(element, 'getBoundingClientRect').mockReturnValue({ left: 10, top: 20 } as DOMRect);
  const steps: GestureStep[] = [];
  const stop = watchGestures(element, begins, (step) => steps.push(step));
  const mouse = (target: EventTarget, type: string, clientX: number, clientY: number, button = 0): boolean =>
    target.dispatchEvent(
      new MouseEvent(type, { clientX, clientY, button, view: window, bubbles: true, cancelable: true }),
    );
  const wheel = (deltaY: number, clientX: number, clientY: number): boolean =>
    element.dispatchEvent(new WheelEvent('wheel', { deltaY, clientX, clientY, bubbles: true, cancelable: true }));
  return { element, steps, stop, mouse, wheel };
}

/** Where a point of the window comes to. */
function carried([x, y]: [number, number], { factor, at, dx, dy }: GestureStep): [number, number] {
  return [at.clientX + (x - at.clientX) * factor + dx, at.clientY + (y - at.clientY) * factor + dy];
}

describe('gestures', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  it('grow about the pointer by the wheel, which scrolls nothing else', () => {
    const { steps, wheel } = watched();
    expect(wheel(-100, 110, 70)).toBe(false);
    expect(steps).toHaveLength(1);
    expect(steps[0]!.factor).toBeCloseTo(2 ** 0.2, 9);
    const [x, y] = carried([110, 70], steps[0]!);
    expect([x, y]).toEqual([expect.closeTo(110, 9), expect.closeTo(70, 9)]);
  });

  it('shrink as much as they grew', () => {
    const { steps, wheel } = watched();
    for (const delta of [-100, -60, 160]) wheel(delta, 50, 50);
    expect(steps.reduce((product, { factor }) => product * factor, 1)).toBeCloseTo(1, 9);
  });

  it('move by dragging, on beyond the element too', () => {
    const { element, steps, mouse } = watched();
    mouse(element, 'mousedown', 40, 40);
    mouse(window, 'mousemove', 55, 37);
    mouse(window, 'mousemove', -30, 37);
    mouse(window, 'mouseup', -30, 37);
    mouse(window, 'mousemove', 100, 100);
    expect(steps.map(({ factor, dx, dy }) => [factor, dx, dy])).toEqual([
      [1, 15, -3],
      [1, -85, 0],
    ]);
  });

  it('begin only where they may', () => {
    const { element, steps, mouse, wheel } = watched(
      (event) => event.type !== 'wheel' && 'button' in event && event.button === 1,
    );
    expect(wheel(-100, 50, 50)).toBe(true);
    mouse(element, 'mousedown', 40, 40);
    mouse(window, 'mousemove', 55, 37);
    mouse(window, 'mouseup', 55, 37);
    expect(steps).toEqual([]);
    mouse(element, 'mousedown', 40, 40, 1);
    mouse(window, 'mousemove', 41, 40);
    expect(steps).toHaveLength(1);
    mouse(window, 'mouseup', 41, 40);
  });

  it('are not followed any more once that was stopped', () => {
    const { steps, stop, wheel } = watched();
    stop();
    wheel(-100, 50, 50);
    expect(steps).toEqual([]);
  });

  it('by two fingers grow as far as these move apart, about their middle', () => {
    const { element, steps } = watched();
    const touches = (...places: [number, number][]): Touch[] =>
      places.map(
        ([clientX, clientY], identifier) => ({ identifier, clientX, clientY, target: element }) as unknown as Touch,
      );
    const touch = (type: string, all: Touch[]): void => {
      const event = new Event(type, { bubbles: true, cancelable: true });
      Object.assign(event, { touches: all, changedTouches: all, targetTouches: all, view: window });
      element.dispatchEvent(event);
    };
    touch('touchstart', touches([100, 100], [200, 100]));
    touch('touchmove', touches([50, 100], [250, 100]));
    expect(steps).toHaveLength(1);
    expect(steps[0]!.factor).toBeCloseTo(2, 9);
    expect(carried([150, 100], steps[0]!)).toEqual([expect.closeTo(150, 9), expect.closeTo(100, 9)]);
  });
});
