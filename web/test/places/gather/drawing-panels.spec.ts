import type { DrawingInfo } from '@folvex/contract';
import type { NamedWindow } from '@folvex/core';
import { NamedWindows } from '../../../src/places/gather/drawing/named-windows';
import { FramesPreview } from '../../../src/places/gather/frames-preview';
import { NewSheetPanel } from '../../../src/places/gather/new-sheet-panel';
import { choose, drawing, enter, field, host, press, show } from '../../support/panels';

describe('named windows of a drawing', () => {
  const stair: NamedWindow = { name: 'Stair B', window: [0, 0, 1, 2] };

  it('are kept under a name that is free, taken up, and removed', async () => {
    const fixture = await show(NamedWindows, { windows: [stair], drawn: [5, 5, 9, 9] });
    const changes: NamedWindow[][] = [];
    const taken: NamedWindow[] = [];
    fixture.componentInstance.changed.subscribe((windows) => changes.push(windows));
    fixture.componentInstance.takenUp.subscribe((window) => taken.push(window));
    const name = host(fixture).querySelector('input')!;
    enter(name, 'stair b');
    await fixture.whenStable();
    expect(host(fixture).textContent).toContain('Another window has this name.');
    enter(name, 'Lift');
    await fixture.whenStable();
    press(fixture, 'Save');
    press(fixture, 'Stair B');
    host(fixture).querySelector<HTMLButtonElement>('[aria-label="Remove window Stair B"]')!.click();
    expect(changes).toEqual([[stair, { name: 'Lift', window: [5, 5, 9, 9] }], []]);
    expect(taken).toEqual([stair]);
  });
});

describe('frames over the picture of a drawing', () => {
  it('stand where they are, turned as they are, with the number each will get', async () => {
    globalThis.IntersectionObserver ??= class {
      observe(): void {}
      disconnect(): void {}
    } as unknown as typeof IntersectionObserver;
    const inDrawing = { ...drawing, hash: 'h', extents: [0, 0, 1000, 500] } as unknown as DrawingInfo;
    const frames = [
      { at: 0, skipped: false, number: 'D-01', window: [0, 250, 500, 500], rotation: 0 },
      { at: 1, skipped: false, number: 'D-02', window: [500, 0, 1000, 250], rotation: -5 },
      { at: 2, skipped: true, number: '', window: [0, 0, 500, 250], rotation: 0 },
    ];
    const fixture = await show(FramesPreview, { drawing: inDrawing, frames });
    const rects = [...host(fixture).querySelectorAll('rect')];
    const of = (rect: Element, name: string): number => Number(rect.getAttribute(name));
    // 640 pixels for the longer side with a margin of 3 in 120 on either: 608 for 1000 units.
    expect(of(rects[0]!, 'x')).toBeCloseTo(16, 6);
    expect(of(rects[0]!, 'y')).toBeCloseTo(16, 6);
    expect(of(rects[1]!, 'x')).toBeCloseTo(16 + 304, 6);
    expect(of(rects[1]!, 'y')).toBeCloseTo(16 + 152, 6);
    expect([...host(fixture).querySelectorAll('text')].map((text) => text.textContent!.trim())).toEqual([
      'D-01',
      'D-02',
      '',
    ]);
    const turns = [...host(fixture).querySelectorAll('g')].map((group) => group.getAttribute('transform')!);
    expect(turns[1]).toMatch(/^rotate\(-5 /);
    // The path leads through the middles of those that become sheets.
    expect(host(fixture).querySelector('polyline')!.getAttribute('points')).toBe('168.0,92.0 472.0,244.0');
    const toggled: number[] = [];
    fixture.componentInstance.toggled.subscribe((at) => toggled.push(at));
    host(fixture).querySelectorAll('g')[2]!.dispatchEvent(new Event('click'));
    expect(toggled).toEqual([2]);
  });
});

describe('a new sheet', () => {
  it('keeps what was typed when a window of its drawing gets a name', async () => {
    const inDrawing = { ...drawing, name: 'quay-plan.dxf', unit: 'mm', extents: [0, 0, 10_000, 5000], windows: [] };
    const fixture = await show(NewSheetPanel, { drawing: inDrawing });
    expect(field(fixture, 'Title').value).toBe('Quay plan');
    enter(field(fixture, 'Title'), 'Typed');
    enter(field(fixture, 'Scale'), '1:75');
    fixture.componentRef.setInput('drawing', { ...inDrawing, windows: [{ name: 'Stair', window: [0, 0, 100, 50] }] });
    await fixture.whenStable();
    expect([field(fixture, 'Title').value, field(fixture, 'Scale').value]).toEqual(['Typed', '1:75']);
    // Another window begins at the scale that fits it.
    await choose(fixture, 'Shows', 'Stair');
    await fixture.whenStable();
    expect(field(fixture, 'Scale').value).not.toBe('1:75');
  });
});
