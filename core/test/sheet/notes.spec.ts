import {
  composeSheet,
  jobFileFrom,
  STROKE,
  type ComposedSheet,
  type Drawing,
  type Note,
  type Sheet,
} from '../../src/index';
import { dxf, read } from '../support/dxf';
import { FONTS } from '../support/fonts';

function composed(notes: Note[], more: Partial<Sheet> = {}, drawing?: Drawing): ComposedSheet {
  const sheet: Sheet = {
    id: 's',
    number: 'A-101',
    title: '',
    group: '',
    paper: { name: 'A3', orientation: 'landscape' },
    frame: 'none',
    titleBlock: undefined,
    revision: undefined,
    views: [],
    notes,
    ...more,
  };
  const project = { number: '', name: '', client: '', fields: {} };
  return composeSheet({ project, sheet, fonts: FONTS, source: () => drawing && { drawing, unit: 'mm' } });
}

/** Points of a path mark, mm. */
function points({ page }: ComposedSheet, mark: number): number[] {
  return [...page.coords.subarray(page.coordStart[mark], page.coordStart[mark + 1])].map((v) => v / 100);
}

describe('notes on a sheet', () => {
  it('are text of a height in mm, wrapped, its first capitals hanging from where it is put', () => {
    const made = composed([
      { id: 'n', kind: 'text', at: [50, 200], text: 'Levels to be\nchecked', size: 3.5, width: 20 },
    ]);
    const { texts } = made.page;
    expect(texts.map(({ text }) => text)).toEqual(['Levels to', 'be', 'checked']);
    expect(texts[0]!.x).toBeCloseTo(5000, 0);
    // Capitals are 3.5 mm high: the baseline lies that much below; lines follow 5/3 of it lower (DXF: MTEXT).
    expect(texts[0]!.y / 100).toBeCloseTo(196.5, 1);
    expect((texts[0]!.y - texts[1]!.y) / 100).toBeCloseTo((3.5 * 5) / 3, 1);
    expect(made.notes[0]).toMatchObject({ id: 'n', at: [50, 200] });
    expect(made.notes[0]!.box.xmin).toBeCloseTo(50, 1);
  });

  it('point with a leader from the nearer side of a text to the very place', () => {
    const text: Note = { id: 'n', kind: 'text', at: [100, 200], text: 'Hinge' };
    const made = composed([{ ...text, to: [60, 150] }]);
    const stroke = made.page.kind.indexOf(STROKE);
    const [x0, y0, x1, y1] = points(made, stroke);
    expect([x1, y1]).toEqual([60, 150]);
    expect([x0, y0]).toEqual([99, 198.75]);
  });

  it('are lines and rectangles with their weight', () => {
    const made = composed([
      { id: 'a', kind: 'line', at: [10, 20], to: [60, 20], weight: 0.7 },
      { id: 'b', kind: 'rectangle', at: [60, 40], to: [10, 30] },
    ]);
    expect(points(made, 0)).toEqual([10, 20, 60, 20]);
    expect(made.page.pens[made.page.pen[0]!]!.width).toBe(70);
    expect(points(made, 1)).toEqual([10, 30, 60, 30, 60, 40, 10, 40]);
    expect(made.notes[1]!.box).toEqual({ xmin: 10, ymin: 30, xmax: 60, ymax: 40 });
  });

  it('are clouds of arcs that bulge outwards by half their chord, with the revision in a triangle', () => {
    const made = composed([{ id: 'c', kind: 'cloud', at: [100, 100], to: [148, 132], text: 'P03' }]);
    const coords = points(made, 0);
    const [xs, ys] = [coords.filter((_, i) => i % 2 === 0), coords.filter((_, i) => i % 2 === 1)];
    // Sides of 48 and 32 mm: six and four arcs of 8 mm, half circles of 4 mm outwards. Handles reach a little further.
    expect(Math.min(...xs)).toBeGreaterThanOrEqual(95.99);
    expect(Math.min(...xs)).toBeLessThan(96.01);
    expect(Math.max(...ys)).toBeCloseTo(136, 1);
    expect(made.page.texts.map(({ text }) => text)).toEqual(['P03']);
    expect(composed([{ id: 'c', kind: 'cloud', at: [0, 0], to: [9, 9] }]).page.texts).toEqual([]);
  });

  it('lie on a layout that is taken over too', () => {
    const layout = { name: 'L', kind: 'layout' as const, entities: [] };
    const plot = { paper: { width: 420, height: 297 }, originX: 0, originY: 0, mmPerUnit: 1 };
    const { drawing } = read(dxf({}));
    const shown = { ...drawing, spaces: [...drawing.spaces, { ...layout, plot }] };
    const note: Note = { id: 'n', kind: 'line', at: [10, 20], to: [60, 20] };
    const made = composed([note], { from: { drawing: 'd', layout: 'L' } }, shown);
    expect(points(made, 0)).toEqual([10, 20, 60, 20]);
    expect(made.notes.map(({ id }) => id)).toEqual(['n']);
  });

  it('come with a job file; one that is none is refused with its path', () => {
    const job = (note: object) => ({ folvex: 4, sheets: [{ id: 's', notes: [{ id: 'n', kind: 'text', ...note }] }] });
    expect(jobFileFrom(job({ at: [1, 2], text: 'x' }))).toMatchObject({ ok: true });
    for (const [note, path] of [
      [{ at: [1] }, 'sheets[0].notes[0].at'],
      [{ at: [1, 2], kind: 'star' }, 'sheets[0].notes[0].kind'],
    ] as const) {
      const refused = jobFileFrom(job(note));
      expect(refused.ok ? '' : refused.problems[0]!.place.path).toBe(path);
    }
  });
});
