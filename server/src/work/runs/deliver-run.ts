import { deliver, openDestination } from '@folvex/press';
import { runFilesOf, saveDelivery, type RunRow } from '../../data/runs';
import type { LeasedJob } from '../queue/worker-queue';
import type { RunDeps } from './run-deps';

/** Copies the files of a finished run to the destination of its package, each once; false where the job was lost meanwhile. */
export async function deliverFiles(
  { db, store, deliveryFolder, held }: RunDeps,
  job: LeasedJob,
  { id, input }: RunRow,
): Promise<boolean> {
  const { destination } = input;
  if (!destination) return true;
  const port = openDestination(destination, { deliveryFolder });
  for (const { position, path, hash, delivered } of await runFilesOf(db, id)) {
    if (delivered) continue;
    const result = await deliver(port, { from: store.path(hash), hash, path }, destination.onConflict);
    if (!(await held.whileHeld(job, (tx) => saveDelivery(tx.db, id, position, result)))) return false;
  }
  return true;
}
