import { compareDrawings, readDxf, type Drawing } from '../../src/index';
import { runChecks } from '../../src/package/run-checks';
import { outputPlan } from '../../src/package/plan';
import { FONTS } from '../support/fonts';

function drawing(entities: string, blocks = ''): Drawing {
  const text = `0\nSECTION\n2\nBLOCKS\n${blocks}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
  const read = readDxf(new TextEncoder().encode(text), 'x.dxf');
  if (!read.ok) throw new Error(read.problem.sentence);
  return read.drawing;
}

const line = (x: number, more = ''): string => `0\nLINE\n5\n${x}A\n8\nW\n${more}10\n${x}\n20\n0\n11\n${x}\n21\n9\n`;
const block = (x: number): string => `0\nBLOCK\n2\nDOOR\n10\n0\n20\n0\n${line(x)}0\nENDBLK\n`;
const insert = '0\nINSERT\n8\nD\n2\nDOOR\n10\n5\n20\n5\n';

const counts = (before: Drawing, after: Drawing): number[] => {
  const { added, removed, kept } = compareDrawings(before, after, FONTS).changes;
  return [added, removed, kept];
};

describe('two versions of a drawing', () => {
  it('are the same when only order and handles differ', () => {
    expect(counts(drawing(line(1) + line(2)), drawing((line(2) + line(1)).replaceAll('A', 'F')))).toEqual([0, 0, 2]);
  });

  it('count equal entities as often as they stand there', () => {
    expect(counts(drawing(line(1) + line(1) + line(1)), drawing(line(1)))).toEqual([0, 2, 1]);
  });

  it('differ when a property does', () => {
    expect(counts(drawing(line(1)), drawing(line(1, '62\n1\n')))).toEqual([1, 1, 0]);
    expect(counts(drawing(line(1)), drawing(line(1, '370\n50\n')))).toEqual([1, 1, 0]);
  });

  it('differ in a reference when the block behind it changed', () => {
    expect(counts(drawing(insert, block(1)), drawing(insert, block(1)))).toEqual([0, 0, 1]);
    expect(counts(drawing(insert, block(1)), drawing(insert, block(2)))).toEqual([1, 1, 0]);
  });

  it('are the same when only programs numbered their own blocks anew', () => {
    const own = (name: string): Drawing => drawing(insert.replace('DOOR', name), block(1).replace('DOOR', name));
    expect(counts(own('*D1'), own('*D7'))).toEqual([0, 0, 1]);
    expect(counts(own('DOOR'), own('GATE'))).toEqual([1, 1, 0]);
  });

  it('differ in a picture only when its file or place does', () => {
    const image = (x: number): string => `0\nIMAGE\n8\nW\n10\n${x}\n20\n0\n11\n1\n22\n1\n13\n4\n23\n2\n340\nD1\n`;
    const withFile = (name: string, x = 0): Drawing => {
      const found = drawing(image(x));
      found.pictures[0]!.linked = name;
      return found;
    };
    expect(counts({ ...withFile('a.png'), key: 'one' }, { ...withFile('a.png'), key: 'two' })).toEqual([0, 0, 1]);
    expect(counts(withFile('a.png'), withFile('b.png'))).toEqual([1, 1, 0]);
    expect(counts(withFile('a.png'), withFile('a.png', 5))).toEqual([1, 1, 0]);
  });

  it('tell a layer that only looks otherwise', () => {
    const [before, after] = [drawing(line(1)), drawing(line(1))];
    after.layers = after.layers.map((layer) => (layer.name === 'W' ? { ...layer, weight: 70 } : layer));
    const { changes } = compareDrawings(before, after, FONTS);
    expect(changes.layers).toEqual([{ name: 'W', state: 'changed', added: 0, removed: 0, looks: true }]);
    expect([changes.added, changes.removed]).toEqual([0, 0]);
  });

  it('are compared although a block holds itself', () => {
    const own = `0\nBLOCK\n2\nDOOR\n10\n0\n20\n0\n${insert}${line(1)}0\nENDBLK\n`;
    expect(counts(drawing(insert, own), drawing(insert, own))).toEqual([0, 0, 1]);
  });

  it('tell their extents, and layers that came', () => {
    const { changes } = compareDrawings(drawing(line(1)), drawing(line(1) + insert, block(30)), FONTS);
    expect(changes.extentsBefore).toEqual([1, 0, 1, 9]);
    expect(changes.extentsAfter).toEqual([1, 0, 35, 14]);
    expect(changes.layers).toEqual([{ name: 'D', state: 'added', added: 1, removed: 0, looks: false }]);
  });
});

it('a view held behind its drawing is a warning before a run, one at the latest version is not', () => {
  const view = {
    id: 'v',
    drawing: 'd',
    space: 'model',
    window: 'extents' as const,
    scale: '1:50',
    at: 'centre' as const,
    layersOff: [],
    label: '',
    held: 1,
  };
  const sheet = {
    id: 's',
    number: 'A-1',
    title: '',
    group: '',
    paper: undefined,
    frame: 'none' as const,
    titleBlock: undefined,
    revision: undefined,
    views: [view],
  };
  const pack = {
    id: 'p',
    name: 'P',
    recipe: '',
    order: ['s'],
    bundling: 'one' as const,
    names: { file: 'a', folder: '', bundle: 'b' },
  };
  const found = (version: number) => {
    const latest = new Map([['d', { name: 'hall.dxf', version }]]);
    const input = {
      project: { number: '', name: '', client: '', fields: {} },
      groups: [],
      sheets: [sheet],
      package: pack,
      runDate: '2026-11-25',
      latest,
    };
    return runChecks(input, outputPlan(input)).filter(({ code }) => code === 'view.out-of-date');
  };
  expect(found(1)).toEqual([]);
  expect(found(2)).toMatchObject([
    {
      severity: 'warning',
      place: { sheet: 'A-1' },
      sentence: expect.stringContaining('version 1 of hall.dxf, which is at version 2') as string,
    },
  ]);
});
