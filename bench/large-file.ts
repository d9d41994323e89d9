import { mkdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { STANDARD_RECIPE, type Outcome } from '@folvex/core';
import { inspectDrawing, makeSheet, sha256 } from '@folvex/press';

/** What is done with a large drawing, each in a process of its own. */
export const LARGE_WORK = ['lines', 'inspect', 'publish'] as const;
export type LargeWork = (typeof LARGE_WORK)[number];

/** Does one thing with a drawing file; returns what it took, ms. `lines`: nothing but reading its lines. */
export async function workOn(path: string, work: LargeWork): Promise<number> {
  const start = performance.now();
  if (work === 'lines') {
    const lines = readFileSync(path, 'latin1').split('\n').length;
    if (lines < 2) throw new Error('the file is empty');
  } else {
    const file = { name: 'large.dxf', path, hash: sha256(readFileSync(path)) };
    if (work === 'inspect') succeeded(await inspectDrawing(file));
    else await publish(file, join(dirname(path), 'out'));
  }
  return performance.now() - start;
}

/** A sheet of A0 that shows all of the drawing, as a part of a PDF file. */
async function publish(file: { name: string; path: string; hash: string }, folder: string): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const view = { id: 'v', drawing: 'd', space: 'model', window: 'extents', scale: '1:100', at: 'centre' } as const;
  const made = await makeSheet({
    project: { number: '', name: '', client: '', fields: {} },
    sheet: {
      ...{ id: 's', number: '1', title: '', group: '', frame: 'iso5457', titleBlock: undefined, revision: undefined },
      paper: { name: 'A0', orientation: 'landscape' },
      views: [{ ...view, layersOff: [], label: '' }],
    },
    recipe: STANDARD_RECIPE,
    drawings: [{ id: 'd', ...file }],
    part: true,
    formats: [],
    folder,
  });
  succeeded(made);
}

function succeeded(outcome: Outcome<unknown>): void {
  if (!outcome.ok) throw new Error(outcome.problem.sentence);
}
