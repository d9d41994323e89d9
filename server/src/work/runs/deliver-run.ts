import pRetry from 'p-retry';
import type { Delivered } from '@folvex/contract';
import { ProblemError, type Destination, type Problem } from '@folvex/core';
import { deliver, openDestination, type DeliveredFile, type DestinationPort } from '@folvex/press';
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
  const port = await portTo({ db, deliveryFolder, sealer }, projectId, destination);
  try {
    for (const { position, path, hash, delivered } of await runFilesOf(db, id)) {
      if (delivered) continue;
      const file = { from: store.path(hash), hash, path };
      const result = 'problem' in port ? port : await deliverWithRetries(port, file, destination);
      if (!(await held.whileHeld(job, (tx) => saveDelivery(tx.db, id, position, result)))) return false;
    }
  } finally {
    if (!('problem' in port)) await port.close();
  }
  return true;
}

/** The port to a destination, or why there is none. */
async function portTo(
  { db, deliveryFolder, sealer }: Pick<RunDeps, 'db' | 'deliveryFolder' | 'sealer'>,
  projectId: string,
  destination: Destination,
): Promise<DestinationPort | { problem: Problem }> {
  try {
    const transferServers = await transferLogins(db, projectId, destination, sealer.unseal);
    return openDestination(destination, { deliveryFolder, transferServers });
  } catch (error) {
    if (error instanceof ProblemError) return { problem: error.problem };
    throw error;
  }
}

async function deliverWithRetries(
  port: DestinationPort,
  file: DeliveredFile,
  { kind, onConflict }: Destination,
): Promise<Delivered> {
  const attempt = async (): Promise<Delivered> => {
    const outcome = await deliver(port, file, onConflict);
    if ('problem' in outcome && outcome.problem.code === 'destination.copy') throw new NotDelivered(outcome);
    return outcome;
  };
  try {
    return await pRetry(attempt, { retries: kind === 'server' ? RETRIES : 0, minTimeout: RETRY_MS, factor: 3 });
  } catch (error) {
    if (error instanceof NotDelivered) return error.outcome;
    throw error;
  }
}
