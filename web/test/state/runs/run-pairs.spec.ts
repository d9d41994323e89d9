import type { RunInfo } from '@folvex/contract';
import { comparedRuns, firstChanged, positionOf, sheetAt } from '../../../src/state/runs/run-pairs';

/** A run of files, each a list of sheets as `id:content`. */
function run(...files: string[][]): RunInfo {
  const all = files.flat().map((text) => text.split(':') as [string, string]);
  const base = {
    path: '',
    bytes: 0,
    format: null,
    sha256: '',
    proof: null,
    startedAt: null,
    milliseconds: null,
  };
  return {
    ...{
      id: 'r',
      packageId: 'p',
      packageName: 'P',
      name: null,
      startedBy: null,
      state: 'done',
      createdAt: '',
      finishedAt: '',
      deliveries: [],
      problem: null,
    },
    removedAt: null,
    sheets: all.map(([sheetId, content]) => ({
      ...{ sheetId, number: sheetId.toUpperCase(), title: 'T', state: 'done', problem: null },
      ...{ content, startedAt: null, worker: null, milliseconds: 1 },
    })),
    files: files.map((sheets) => ({
      ...base,
      pages: sheets.length,
      sheets: sheets.map((text) => text.split(':')[0]!),
    })),
  };
}

const earlier = run(['a:1', 'b:2'], ['c:3']);

it('tells pages that are the same, changed, new and gone, wherever they lie', () => {
  const { states, gone } = comparedRuns(run(['d:9', 'a:1'], ['b:5']), earlier);
  expect([...states]).toEqual([
    ['d', 'new'],
    ['a', 'same'],
    ['b', 'changed'],
  ]);
  expect(gone).toEqual(['C T']);
});

it('finds the page of a sheet, and the sheet of a page', () => {
  expect(positionOf(earlier, 'b')).toEqual({ file: 0, page: 2 });
  expect(positionOf(earlier, 'c')).toEqual({ file: 1, page: 1 });
  expect(positionOf(earlier, 'x')).toBeUndefined();
  expect(sheetAt(earlier, { file: 0, page: 1 })).toBe('a');
  expect(sheetAt(earlier, { file: 0, page: 3 })).toBeUndefined();
});

it('finds the first page that is not the same', () => {
  expect(firstChanged(run(['a:1', 'b:2'], ['c:3']), run(['a:1', 'b:2'], ['c:4']))).toEqual({ file: 1, page: 1 });
  expect(firstChanged(run(['a:1', 'n:2']), run(['a:1']))).toEqual({ file: 0, page: 2 });
  expect(firstChanged(run(['a:1']), run(['a:1']))).toBeUndefined();
});

it('says no page of a file whose sheets go on several pages each', () => {
  const tiled = run(['a:1', 'b:2']);
  tiled.files[0]!.pages = 8;
  expect(sheetAt(tiled, { file: 0, page: 1 })).toBeUndefined();
  expect(positionOf(tiled, 'a')).toBeUndefined();
});
