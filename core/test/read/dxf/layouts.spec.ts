import { describePaper, parseLayoutName, viewportScales, type ComposedSheet } from '../../../src/index';
import { read } from '../../support/dxf';
import { drawnBy } from '../../support/ezdxf';
import { composedLayout } from '../../support/sheets';

/** Straight marks on a layer, as x0 y0 x1 y1 in mm. */
function lines({ page }: ComposedSheet, onto: string): number[][] {
  const index = page.layers.findIndex(({ name }) => name === onto);
  return [...page.layer.keys()]
    .filter((mark) => page.layer[mark] === index && page.coordStart[mark + 1]! - page.coordStart[mark]! === 4)
    .map((mark) => [...page.coords.subarray(page.coordStart[mark], page.coordStart[mark + 1])].map((v) => v / 100));
}

/** Layouts written by ezdxf, whose own numbers say where everything must lie. */
describe('layouts taken over as sheets', () => {
  const { drawing, warnings } = read(drawnBy('write_layouts.py').bytes);

  it('are found with their paper', () => {
    expect(warnings).toEqual([]);
    const found = drawing.spaces
      .filter(({ kind, plot }) => kind === 'layout' && plot)
      .map(({ name, plot }) => [name, describePaper(plot!.paper)]);
    expect(found).toEqual(
      expect.arrayContaining([
        ['A-101 Ground floor', 'A1'],
        ['A-102', 'A1'],
        ['Detail', 'D (ASME)'],
      ]),
    );
  });

  it('show the model through a viewport at its scale: 12 345 mm at 1:50 are 246.9 mm', () => {
    const sheet = composedLayout(drawing, 'A-101 Ground floor');
    expect(sheet.paper).toEqual({ width: 841, height: 594 });
    const [wall] = lines(sheet, 'A-WALL');
    expect(wall![2]! - wall![0]!).toBeCloseTo(246.9, 2);
    // The view's middle, x = 106 000, lies at the viewport's, 400 mm from the origin, which is 8 mm from the edge.
    expect(wall![0]).toBeCloseTo(8 + 400 - 6000 / 50, 2);
    expect(wall![1]).toBeCloseTo(7 + 300, 2);
  });

  it('tell at which scale each viewport shows the model, where its unit is known', () => {
    const layout = 'A-101 Ground floor';
    expect(composedLayout(drawing, layout).viewports).toEqual([]);
    const { viewports } = composedLayout(drawing, layout, 'mm');
    expect(viewports).toHaveLength(1);
    expect(viewports[0]!.scale).toBeCloseTo(1 / 50, 9);
    const space = drawing.spaces.find(({ name }) => name === layout)!;
    expect(viewportScales(space)).toEqual([expect.closeTo(1 / 50, 9)]);
    // A drawing in metres stands at another scale on the very same paper.
    expect(composedLayout(drawing, layout, 'm').viewports[0]!.scale).toBeCloseTo(1 / 50_000, 12);
  });

  it('leave out what a viewport freezes, and draw its border', () => {
    const sheet = composedLayout(drawing, 'A-101 Ground floor');
    expect(lines(sheet, 'A-FURN')).toEqual([]);
    const border = [...sheet.page.coords].map((v) => v / 100);
    expect(border.join(' ')).toContain('258 207 558 207 558 407 258 407');
    expect(sheet.page.texts.map(({ text, x, y }) => [text, x / 100, y / 100])).toContainEqual(['Sheet note', 108, 57]);
  });

  it('turn with the twist of their viewport, about its target', () => {
    const [wall] = lines(composedLayout(drawing, 'A-102'), 'A-WALL');
    // 15 000 units on 300 mm are 1:50; turned a quarter, the wall runs up from the viewport's middle and leaves it.
    expect(wall!.map((v) => Math.round(v * 100) / 100)).toEqual([400, 300, 400, 300 + 246.9]);
  });

  it('measure in inches where they are laid out in inches', () => {
    const sheet = composedLayout(drawing, 'Detail');
    expect([sheet.paper.width, sheet.paper.height].map((v) => Math.round(v * 10) / 10)).toEqual([863.6, 558.8]);
    expect(lines(sheet, '0')).toEqual([[25.4, 25.4, 279.4, 25.4]]);
  });

  it('that are not there are refused with those that are', () => {
    expect(() => composedLayout(drawing, 'A-999')).toThrow(/has no layout "A-999"; it has .*A-102/);
  });
});

describe('names of layouts', () => {
  it.each([
    ['A-101 Ground floor', 'A-101', 'Ground floor'],
    ['A-101 - Ground floor', 'A-101', 'Ground floor'],
    ['A101', 'A101', ''],
    ['Layout1', 'Layout1', ''],
    ['Site plan', 'Site plan', ''],
    ['M.02 – Plant room', 'M.02', 'Plant room'],
  ])('%s', (name, number, title) => {
    expect(parseLayoutName(name)).toEqual({ number, title });
  });
});
