import pRetry from 'p-retry';
import type { Delivered } from '@folvex/contract';
import { deliver, openDestination } from '@folvex/press';
import { runFilesOf, saveDelivery, type RunRow } from '../../data/runs';
import { transferLogins } from '../../data/transfer-servers';
import type { LeasedJob } from '../queue/worker-queue';
import type { RunDeps } from './run-deps';

/** A connection that broke is tried again after growing pauses: 1, 3 and 9 s. */
const [RETRIES, RETRY_MS] = [3, 1000];

/** A try that another may repair. */
class NotDelivered extends Error {
  constructor(readonly outcome: Delivered) {
    super('not delivered');
  }
}

/** Copies the files of a finished run to the destination of its package, each once; false where the job was lost meanwhile. */
export async function deliverFiles(
  { db, store, deliveryFolder, sealer, held }: RunDeps,
  job: LeasedJob,
  { id, projectId, input }: RunRow,
): Promise<boolean> {
  const { destination } = input;
  if (!destination) return true;
  const transferServers = await transferLogins(db, projectId, sealer.unseal);
  const port = openDestination(destination, { deliveryFolder, transferServers });
  try {
    for (const { position, path, hash, delivered } of await runFilesOf(db, id)) {
      if (delivered) continue;
      const file = { from: store.path(hash), hash, path };
      const result = await pRetry(
        async () => {
          const outcome = await deliver(port, file, destination.onConflict);
          if ('problem' in outcome && outcome.problem.code === 'destination.copy') throw new NotDelivered(outcome);
          return outcome;
        },
        { retries: destination.kind === 'server' ? RETRIES : 0, minTimeout: RETRY_MS, factor: 3 },
      ).catch((error: unknown) => {
        if (error instanceof NotDelivered) return error.outcome;
        throw error;
      });
      if (!(await held.whileHeld(job, (tx) => saveDelivery(tx.db, id, position, result)))) return false;
    }
  } finally {
    await port.close();
  }
  return true;
}
