import { join } from 'node:path';
import { rememberDelivered, rememberProof, runFileAt, runFilesOf, runSheetsOf, type RunRow } from '../data/runs';
import { deliver } from '../files/destination';
import type { SheetJob } from './queue';
import { frozen, type Workshop } from './workshop';

/** Copies the files of a run that is over to the destination of its package, each once. */
export async function deliverFiles({ db, store, deliveryFolder }: Workshop, { id, input }: RunRow): Promise<void> {
  const { destination } = input.package;
  if (!destination || input.folder === undefined) return;
  for (const { position, path, hash, delivered } of await runFilesOf(db, id)) {
    if (delivered) continue;
    const done = await deliver(store.path(hash), hash, join(deliveryFolder, input.folder), path, destination.there);
    await rememberDelivered(db, id, position, done);
  }
}

/** Has a file of a run that is over read again, once. The run is there to be used meanwhile. */
export async function proofStep({ db, store, press }: Workshop, { runId, position }: SheetJob): Promise<void> {
  const [run, file] = [await frozen(db, runId), await runFileAt(db, runId, position)];
  if (!run || !file || file.proof) return;
  const rows = await runSheetsOf(db, runId);
  const { recipe, lock, package: pack } = run.input;
  if (file.format) {
    const made = rows.find(({ sheetId }) => sheetId === file.sheets[0])?.beside?.find(({ hash }) => hash === file.hash);
    if (!made) return;
    const { format, width, height } = made;
    const dpi = pack.beside?.dpi;
    const task = { path: store.path(file.hash), format, width, height, ...(dpi !== undefined && { dpi }) };
    return rememberProof(db, runId, position, await press.proofBeside(task));
  }
  const sheets = new Map(rows.map(({ sheetId, partHash }) => [sheetId, partHash]));
  const hashes = file.sheets.map((sheet) => sheets.get(sheet));
  if (!hashes.every((hash) => typeof hash === 'string')) return;
  const parts = hashes.map((hash) => store.path(hash));
  const proof = await press.proof({ path: store.path(file.hash), parts, recipe, locked: lock !== undefined });
  await rememberProof(db, runId, position, proof);
}
