import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inspectDrawing, makePage, sha256, WholeFile } from '../../src/index';
import { SHEET } from '../support/published';
import { STANDARD_RECIPE, unpackPage, type Sheet } from '@folvex/core';

const folder = mkdtempSync(join(tmpdir(), 'folvex-press-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const LINE = '0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nA\n10\n0\n20\n0\n11\n4000\n21\n2000\n0\nENDSEC\n0\nEOF\n';

function drawing(name: string, text: string) {
  const path = join(folder, name);
  writeFileSync(path, text);
  return { id: name, name, path, hash: sha256(text) };
}

describe('a whole file', () => {
  it('appears only when it is complete, with the hash of all its bytes', () => {
    const target = join(folder, 'a', 'b', 'x.bin');
    const file = new WholeFile(folder);
    const chunks = [new Uint8Array(10).fill(1), new Uint8Array(3 << 20).fill(2), new Uint8Array(5).fill(3)];
    for (const chunk of chunks) file.write(chunk);
    expect(existsSync(target)).toBe(false);
    const hash = file.sync();
    file.moveTo(target);
    expect(hash).toBe(sha256(Buffer.concat(chunks)));
    expect(sha256(readFileSync(target))).toBe(hash);
  });

  it('leaves nothing when it is thrown away', () => {
    const before = readdirSync(folder).length;
    const file = new WholeFile(folder);
    file.write(new Uint8Array(100));
    file.discard();
    file.discard();
    expect(readdirSync(folder)).toHaveLength(before);
  });
});

describe('a drawing that comes in', () => {
  it('is told with unit, extents, layers and a miniature', async () => {
    const found = await inspectDrawing(drawing('line.dxf', LINE));
    if (!found.ok) throw new Error(found.problem.sentence);
    expect(found.value.facts).toMatchObject({ unit: null, entities: 1, extents: [0, 0, 4000, 2000], warnings: [] });
    expect(found.value.facts.layers.map(({ name }) => name)).toEqual(['0', 'A']);
    const page = unpackPage(found.value.miniature!);
    // The longer side is 120 mm, with 3 mm around the drawing.
    expect([page.widthMm, page.heightMm]).toEqual([120, 63]);
    expect(page.markCount).toBe(1);
  });

  it('has its fonts listed, with those that texts change to', async () => {
    const text = '0\nMTEXT\n8\n0\n10\n0\n20\n0\n40\n2\n1\n{\\fOffice Sans|b1|i0;A} and {\\fSymbols;B}\n';
    const found = await inspectDrawing(drawing('fonts.dxf', LINE.replace('0\nENDSEC', `${text}0\nENDSEC`)));
    expect(found.ok && found.value.facts.fonts.map(({ asked }) => asked)).toEqual(['Office Sans Bold', 'Symbols']);
  });

  it('without anything visible has neither extents nor a miniature', async () => {
    const found = await inspectDrawing(drawing('none.dxf', LINE.replace('LINE', '3DSOLID')));
    expect(found).toMatchObject({ ok: true, value: { miniature: null, facts: { extents: null } } });
  });
});

describe('a sheet', () => {
  const view = {
    id: 'v',
    drawing: 'unit.dxf',
    space: 'model',
    window: 'extents' as const,
    scale: '1:50',
    at: 'centre' as const,
    layersOff: [],
    label: '',
  };
  const sheet: Sheet = { ...SHEET, number: 'A-1', paper: { size: [200, 100] }, views: [view] };
  const project = { number: '', name: '', client: '', fields: {} };

  it('cannot be made before the unit of its drawing is known', async () => {
    const drawings = [drawing('unit.dxf', LINE)];
    const refused = await makePage({ project, sheet, recipe: STANDARD_RECIPE, drawings });
    expect(refused).toMatchObject({ ok: false, problem: { code: 'drawing.unit', place: { sheet: 'A-1' } } });
    const made = await makePage({
      project,
      sheet,
      recipe: STANDARD_RECIPE,
      drawings: [{ ...drawings[0]!, unit: 'mm' }],
    });
    expect(made).toMatchObject({ ok: true, value: { paper: { width: 200, height: 100 }, views: [{ scale: 0.02 }] } });
  });

  it('whose drawing has gone from the disk is a problem, not a crash', async () => {
    const gone = { id: 'unit.dxf', name: 'unit.dxf', path: join(folder, 'gone'), hash: '0', unit: 'mm' };
    expect(await makePage({ project, sheet, recipe: STANDARD_RECIPE, drawings: [gone] })).toMatchObject({
      ok: false,
      problem: { code: 'sheet.failed' },
    });
  });
});
