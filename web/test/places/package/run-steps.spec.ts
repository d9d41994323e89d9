import type { RunInfo } from '@folvex/contract';
import { stepsOf } from '../../../src/places/package/run/run-steps';

const sheet = (number: string, second: number, worker: string, milliseconds: number | null) => ({
  ...{ sheetId: number, number, title: '', problem: null, content: null, worker, milliseconds },
  state: number === 'A-3' ? ('failed' as const) : ('done' as const),
  startedAt: `2026-11-25T10:00:0${second}.000Z`,
});

const run: RunInfo = {
  ...{
    id: 'r',
    packageId: 'p',
    packageName: 'P',
    name: null,
    startedBy: null,
    state: 'failed',
    finishedAt: null,
    deliveries: [],
    problem: null,
  },
  removedAt: null,
  createdAt: '2026-11-25T10:00:00.000Z',
  sheets: [
    sheet('A-1', 1, 'host 9', 500),
    sheet('A-2', 1, 'host 20', 700),
    sheet('A-3', 2, 'host 9', 10),
    sheet('A-4', 2, 'host 9', null),
  ],
  files: [
    {
      ...{
        path: 'a.pdf',
        pages: 1,
        bytes: 1,
        format: null,
        sha256: '',
        sheets: ['A-1'],
        proof: null,
        milliseconds: 40,
      },
      startedAt: '2026-11-25T10:00:03.000Z',
    },
  ],
};

it('tells what each worker did when, in ms from the beginning, and when files were put together', () => {
  expect(stepsOf(run)).toEqual([
    { row: 'files', name: 'a.pdf', kind: 'file', from: 3000, to: 3040 },
    { row: 'worker 1', name: 'A-2', kind: 'made', from: 1000, to: 1700 },
    { row: 'worker 2', name: 'A-1', kind: 'made', from: 1000, to: 1500 },
    { row: 'worker 2', name: 'A-3', kind: 'failed', from: 2000, to: 2010 },
  ]);
});
