import type { SheetTask } from '@folvex/press';
import type { Database } from '../data/database';
import { allMadeBefore } from '../data/runs';
import type { Store } from '../files/store';
import { besideKeys, knownBeside, type MadeBesideFile } from './beside-files';
import type { RunInput } from './run-input';
import { inputHash, taskOfSheet } from './sheet-task';

/** What a sheet of a run came to: its part of PDFs, and what is written beside them. */
export interface SheetFiles {
  part: string;
  beside: MadeBesideFile[];
}

/** The sheets of a run, by position, of which all that is wanted was made before and lies in the store. */
export async function knownSheets(
  { db, store }: { db: Database; store: Store },
  input: RunInput,
): Promise<Map<number, SheetFiles>> {
  const tasks = input.sheets.map((_, position) => taskOfSheet(store, input, position));
  const keys = tasks.map(inputHash);
  const parts = await allMadeBefore(db, 'part', keys);
  const known = new Map<number, SheetFiles>();
  for (const [position, task] of tasks.entries()) {
    const part = parts.get(keys[position]!);
    if (part === undefined || !(await store.has(part))) continue;
    const beside = await wholeBeside({ db, store }, input, task);
    if (beside) known.set(position, { part, beside });
  }
  return known;
}

/** What was written of a sheet beside PDF; undefined where something is missing. */
async function wholeBeside(
  shop: { db: Database; store: Store },
  input: RunInput,
  task: SheetTask,
): Promise<MadeBesideFile[] | undefined> {
  const keys = besideKeys(input, task);
  if (keys.length === 0) return [];
  const found = await knownBeside(shop, keys);
  return found.size === keys.length ? [...found.values()] : undefined;
}
