import { TestBed } from '@angular/core/testing';
import { MockStore } from '@ngrx/store/testing';
import type { SheetFields } from '@folvex/contract';
import type { View } from '@folvex/core';
import { PlacedViews } from '../../../src/places/sheets/sheet/placed-views';
import { OutlineTool } from '../../../src/places/sheets/sheet/outline-tool';
import { Rulers } from '../../../src/places/sheets/sheet/rulers';
import { SheetPanel } from '../../../src/places/sheets/sheet/sheet-panel';
import { ViewPanel } from '../../../src/places/sheets/sheet/view-panel';
import { SeveralPanel } from '../../../src/places/sheets/several-panel';
import { today } from '../../../src/ui/words';
import { choose, drawing, enter, field, host, press, show, tick } from '../../support/panels';
import { sheet } from '../../support/sheet';

const view: View = { ...sheet('1:100').views[0]!, id: 'v', at: [100, 50] };
const placed = { id: 'v', scale: 1 / 100, box: { xmin: 100, ymin: 50, xmax: 180, ymax: 90 } };
describe('what is said of a view', () => {
  async function panel(more: Partial<View> = {}) {
    const fixture = await show(ViewPanel, { view: { ...view, ...more }, placed, drawing });
    const changes: View[] = [];
    fixture.componentInstance.changed.subscribe((changed) => changes.push(changed));
    return { fixture, changes };
  }

  it('is its size and place on the paper, from what was composed', async () => {
    const { fixture } = await panel();
    expect(host(fixture).textContent).toContain('80 × 40 mm');
    expect(field(fixture, 'From the left').value).toBe('100');
    expect(field(fixture, 'From below').value).toBe('50');
  });

  it('changes by what is typed; a new scale keeps the middle', async () => {
    const { fixture, changes } = await panel();
    enter(field(fixture, 'Scale'), '1:50');
    enter(field(fixture, 'From the left'), '12,5');
    enter(field(fixture, 'Rotation'), '90');
    enter(field(fixture, 'Title below'), ' Quay ');
    expect(changes).toEqual([
      { ...view, scale: '1:50', at: [60, 30] },
      { ...view, at: [12.5, 50] },
      { ...view, rotation: 90 },
      { ...view, label: 'Quay' },
    ]);
  });

  it('has a resolution for its pictures, and says what they take', async () => {
    const { fixture, changes } = await panel();
    expect(host(fixture).textContent).not.toContain('Pictures');
    fixture.componentRef.setInput('pictures', [{ key: 'a', bytes: 4_000_000, dpi: 600, limit: 300 }]);
    await fixture.whenStable();
    expect(host(fixture).textContent).toContain('About 1.0 MB of pictures');
    enter(field(fixture, 'Pictures, dpi'), '200');
    expect(changes).toEqual([{ ...view, pictureDpi: 200 }]);
  });

  it('stays as it is where nothing usable is typed', async () => {
    const { fixture, changes } = await panel({ rotation: 30 });
    enter(field(fixture, 'From the left'), 'far');
    enter(field(fixture, 'From below'), ' ');
    enter(field(fixture, 'Rotation'), '720');
    enter(field(fixture, 'Scale'), 'half');
    enter(field(fixture, 'Scale'), '1:0.0001x');
    expect(changes).toEqual([]);
    await fixture.whenStable();
    expect(host(fixture).textContent).toContain('Type a number from -360 to 360.');
    expect(host(fixture).textContent).toContain('Write a scale such as 1:50, or fit.');
    enter(field(fixture, 'Scale'), view.scale);
    expect(changes).toEqual([]);
    enter(field(fixture, 'Rotation'), '0');
    expect(changes[0]).not.toHaveProperty('rotation');
  });

  it('says whether it is live, held or out of date, and changes that', async () => {
    const { fixture, changes } = await panel();
    expect(host(fixture).textContent).toContain('Live: follows d.dxf.');
    press(fixture, 'Hold at version 3');
    TestBed.resetTestingModule();
    const old = await panel({ held: 2 });
    expect(host(old.fixture).textContent).toContain('Held at version 2, out of date.');
    press(old.fixture, 'Follow the drawing');
    expect([...changes, ...old.changes]).toEqual([{ ...view, held: 3 }, view]);
  });

  it('shows visible layers, to be left out of this view alone', async () => {
    const { fixture, changes } = await panel({ layersOff: ['a-furn'] });
    const boxes = [...host(fixture).querySelectorAll<HTMLInputElement>('li input')];
    expect(boxes.map(({ checked }) => checked)).toEqual([true, false]);
    boxes[0]!.click();
    boxes[1]!.click();
    expect(changes.map(({ layersOff }) => layersOff)).toEqual([['a-furn', 'A-WALL'], []]);
  });
});

describe('what is said of a sheet', () => {
  async function panel() {
    const shown = { ...sheet('1:100'), paper: { name: 'A1', orientation: 'landscape' as const } };
    const fixture = await show(SheetPanel, { sheet: shown, paper: { width: 841, height: 594 } });
    const changes: Partial<SheetFields>[] = [];
    fixture.componentInstance.changed.subscribe((changed) => changes.push(changed));
    return { fixture, changes };
  }

  it('changes field by field', async () => {
    const { fixture, changes } = await panel();
    enter(field(fixture, 'Title'), 'Roof');
    await choose(fixture, 'Paper', /^A0 /);
    await choose(fixture, 'Paper', 'smallest that fits');
    await choose(fixture, 'Frame', 'plain');
    await tick(fixture, 'Grid reference');
    expect(changes).toEqual([
      { title: 'Roof' },
      { paper: { name: 'A0', orientation: 'landscape' } },
      { paper: null },
      { frame: 'plain' },
      { marks: ['grid'] },
    ]);
  });

  it('keeps its number, and gives a revision the date of today until another is typed', async () => {
    const { fixture, changes } = await panel();
    enter(field(fixture, 'Number'), '  ');
    await fixture.whenStable();
    expect(host(fixture).textContent).toContain('A sheet needs a number.');
    expect(changes).toEqual([]);
    enter(field(fixture, 'Revision'), 'P02');
    expect(changes).toEqual([{ revision: { index: 'P02', date: today(), text: '' } }]);
    enter(field(fixture, 'Date'), '25.11.2026');
    await fixture.whenStable();
    expect(host(fixture).textContent).toContain('Write the date as YYYY-MM-DD.');
    enter(field(fixture, 'Date'), '2026-11-25');
    expect(changes.slice(1)).toEqual([{ revision: { index: 'P02', date: '2026-11-25', text: '' } }]);
  });
});

describe('views over the picture of a sheet', () => {
  const paper = { width: 420, height: 297 };
  const area = { xmin: 20, ymin: 10, xmax: 410, ymax: 287 };
  async function overlay() {
    const inputs = { paper, views: [placed], area, names: { v: 'Quay' }, pixelsPerMm: 1 };
    const fixture = await show(PlacedViews, inputs);
    host(fixture).getBoundingClientRect = () => ({ left: 0, bottom: 297 }) as DOMRect;
    const svg = host(fixture).querySelector('svg')!;
    const rect = host(fixture).querySelector('rect.view')!;
    rect.setPointerCapture = () => undefined;
    svg.releasePointerCapture = () => undefined;
    const puts: object[] = [];
    fixture.componentInstance.put.subscribe((put) => puts.push(put));
    const at = (target: Element, type: string, clientX: number, clientY: number): void => {
      const event = new MouseEvent(type, { clientX, clientY, bubbles: true });
      target.dispatchEvent(event);
    };
    return { fixture, svg, rect, puts, at };
  }

  it('lie where they lie on the paper, y upwards', async () => {
    const { rect } = await overlay();
    expect(['x', 'y', 'width', 'height'].map((name) => Number(rect.getAttribute(name)))).toEqual([100, 207, 80, 40]);
  });

  it('are dragged, and caught by the edge of the drawing area', async () => {
    const { fixture, svg, rect, puts, at } = await overlay();
    at(rect, 'pointerdown', 140, 220);
    expect(fixture.componentInstance.chosen()).toBe('v');
    // 77 mm to the left would be 23 from the edge of the paper: the area begins at 20.
    at(svg, 'pointermove', 63, 200);
    at(svg, 'pointerup', 63, 200);
    expect(puts).toEqual([{ id: 'v', x: 20, y: 70 }]);
  });

  it('are let go where a press falls next to them', async () => {
    const { fixture, svg, at, rect, puts } = await overlay();
    at(rect, 'pointerdown', 140, 220);
    at(svg, 'pointerup', 140, 220);
    at(svg, 'pointerdown', 5, 5);
    expect([fixture.componentInstance.chosen(), puts]).toEqual([null, []]);
  });
});

describe('rulers', () => {
  it('number millimetres as closely as there is room for', async () => {
    const numbers = async (pixelsPerMm: number): Promise<string[]> => {
      TestBed.resetTestingModule();
      const fixture = await show(Rulers, {
        paper: { width: 210, height: 100 },
        pixelsPerMm,
        seen: { xmin: 0, ymin: 0, xmax: 210, ymax: 100 },
      });
      return [...host(fixture).querySelectorAll('.across')].map((tick) => tick.textContent!);
    };
    expect(await numbers(1)).toEqual(['0', '100', '200']);
    expect(await numbers(2)).toEqual(['0', '50', '100', '150', '200']);
  });

  it('go along with what is seen, over the edge of the sheet where that is not', async () => {
    TestBed.resetTestingModule();
    const seen = { xmin: 100, ymin: 20, xmax: 130, ymax: 50 };
    const fixture = await show(Rulers, { paper: { width: 210, height: 100 }, pixelsPerMm: 10, seen });
    const ticks = [...host(fixture).querySelectorAll<HTMLElement>('.across')];
    expect(ticks.map((tick) => [tick.textContent, tick.style.left, tick.style.top])).toEqual([
      ['100', '1000px', '502px'],
      ['110', '1100px', '502px'],
      ['120', '1200px', '502px'],
      ['130', '1300px', '502px'],
    ]);
  });
});

describe('the outline of a view', () => {
  it('is taken from points, and what is none is said and left', async () => {
    const view = {
      id: 'v',
      drawing: 'd',
      space: 'model',
      window: 'extents' as const,
      scale: '1:50',
      at: 'centre' as const,
      layersOff: [],
      label: '',
      outline: [
        [0, 0],
        [1, 0],
        [1, 1],
      ] as [number, number][],
    };
    const fixture = await show(ViewPanel, { view, placed: null, drawing: null });
    const changes: View[] = [];
    fixture.componentInstance.changed.subscribe((changed) => changes.push(changed));
    const points = host(fixture).querySelector('textarea')!;
    expect(points.value).toBe('0 0\n1 0\n1 1');
    enter(points, '0 0\n5.5 0');
    await fixture.whenStable();
    expect(host(fixture).textContent).toContain('An outline has three points or more');
    enter(points, '0 0\n5.5 0\n\n5,5');
    expect(changes.map(({ outline }) => outline)).toEqual([
      [
        [0, 0],
        [5.5, 0],
        [5, 5],
      ],
    ]);
  });

  it('is drawn point by point and closed by Enter or at its first point', async () => {
    const fixture = await show(OutlineTool, { paper: { width: 100, height: 50 }, pixelsPerMm: 2 });
    const drawn: number[][][] = [];
    fixture.componentInstance.drawn.subscribe((points) => drawn.push(points));
    let given = 0;
    fixture.componentInstance.givenUp.subscribe(() => given++);
    const svg = host(fixture).querySelector('svg')!;
    const at = (x: number, y: number): void =>
      void svg.dispatchEvent(new MouseEvent('click', { clientX: x, clientY: y, bubbles: true }));
    const key = (name: string): void =>
      void svg.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true }));
    // Nothing has a size here: the lower left corner of the sheet is the origin, upwards is negative.
    at(20, -20);
    at(60, -20);
    key('Enter');
    expect(drawn).toEqual([]);
    at(60, -60);
    key('Enter');
    expect(drawn[0]).toEqual([
      [10, 10],
      [30, 10],
      [30, 30],
    ]);
    key('Backspace');
    at(40, -80);
    at(21, -21);
    expect(drawn[1]).toHaveLength(3);
    key('Escape');
    expect(given).toBe(1);
  });
});

describe('earlier revisions of a sheet', () => {
  it('are listed, and one that a corrected index left behind is taken out', async () => {
    const revisions = ['P01', 'P02'].map((index) => ({ index, date: '2026-09-15', text: '' }));
    const fixture = await show(SheetPanel, { sheet: { ...sheet('1:50'), revisions }, paper: null });
    const changes: Partial<SheetFields>[] = [];
    fixture.componentInstance.changed.subscribe((changed) => changes.push(changed));
    host(fixture).querySelector<HTMLButtonElement>('[aria-label="Remove revision P02"]')!.click();
    expect(changes).toEqual([{ revisions: [revisions[0]] }]);
  });
});

describe('settings for several sheets', () => {
  it('send only what was set', async () => {
    const fixture = await show(SeveralPanel, { sheets: [sheet('1:50'), { ...sheet('1:50'), id: 'other' }] });
    const store = TestBed.inject(MockStore);
    const sent: unknown[] = [];
    store.scannedActions$.subscribe((action) => sent.push(action));
    const button = [...host(fixture).querySelectorAll('button')].find((one) => one.textContent!.includes('Set on'))!;
    expect(button.disabled).toBe(true);
    enter(field(fixture, 'Scale'), 'half');
    await fixture.whenStable();
    expect(button.disabled).toBe(true);
    enter(field(fixture, 'Scale'), '1:200');
    await fixture.whenStable();
    await choose(fixture, 'Title block', /^Low strip/);
    await fixture.whenStable();
    press(fixture, 'Set on 2 sheets');
    const ids = [sheet('1:50').id, 'other'];
    expect(sent.at(-1)).toMatchObject({ change: { ids, set: { scale: '1:200', template: 'strip' } } });
  });
});
