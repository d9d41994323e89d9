import { besideOf, type BesideFormat, type Outcome } from '@folvex/core';
import { sha256, type BesideFile, type Press, type SheetTask } from '@folvex/press';
import type { Database } from '../data/database';
import { allMadeBefore, rememberMade } from '../data/runs';
import type { Store } from '../files/store';
import type { RunInput } from './run-input';
import { inputHash } from './sheet-task';

/** A file that was written of a sheet beside PDF, and lies in the store. */
export type MadeBesideFile = Omit<BesideFile, 'temporary'>;

/** Identifies what a file beside PDF is made from. */
export interface BesideKey {
  format: BesideFormat;
  key: string;
}

/** Raised when what is written in these formats changes, so that nothing older is taken for it. */
const WRITERS = 3;

/** The formats that a run writes a sheet in beside PDF. */
export function besideKeys({ package: pack }: RunInput, task: SheetTask): BesideKey[] {
  const formats = besideOf(pack, task.sheet.id);
  if (formats.length === 0) return [];
  const input = inputHash(task);
  return formats.map((format) => ({ format, key: sha256(`${WRITERS} ${format} ${pack.beside?.dpi ?? ''} ${input}`) }));
}

/** Those of them that were made before and lie in the store. */
export async function knownBeside(
  { db, store }: { db: Database; store: Store },
  keys: readonly BesideKey[],
): Promise<Map<BesideFormat, MadeBesideFile>> {
  const known = new Map<BesideFormat, MadeBesideFile>();
  const made = await allMadeBefore(
    db,
    'beside',
    keys.map(({ key }) => key),
  );
  for (const { format, key } of keys) {
    const facts = made.get(key);
    if (facts === undefined || !(await store.has(facts))) continue;
    const file = JSON.parse((await store.read(facts)).toString()) as MadeBesideFile;
    if (await store.has(file.hash)) known.set(format, file);
  }
  return known;
}

/** Writes a sheet in the formats that its package wants beside PDF, or takes from the store what was written before. */
export async function besideFiles(
  { db, store, press }: { db: Database; store: Store; press: Press },
  input: RunInput,
  task: SheetTask,
): Promise<Outcome<MadeBesideFile[]>> {
  const keys = besideKeys(input, task);
  if (keys.length === 0) return { ok: true, value: [] };
  const files = await knownBeside({ db, store }, keys);
  const missing = keys.filter(({ format }) => !files.has(format));
  if (missing.length > 0) {
    const dpi = input.package.beside?.dpi;
    const formats = missing.map(({ format }) => format);
    const folder = store.workFolder;
    const made = await press.makeBeside({ ...task, formats, folder, ...(dpi !== undefined && { dpi }) });
    if (!made.ok) return made;
    for (const { temporary, ...file } of made.value.files) {
      store.adopt(temporary, file.hash);
      const { key } = missing.find(({ format }) => format === file.format)!;
      await rememberMade(db, 'beside', key, await store.put(Buffer.from(JSON.stringify(file))));
      files.set(file.format, file);
    }
  }
  return { ok: true, value: keys.map(({ format }) => files.get(format)!) };
}
