import pRetry from 'p-retry';
import type { Delivered } from '@folvex/contract';
import { ProblemError, type ConflictPolicy, type Problem } from '@folvex/core';
import { deliver, type DestinationPort } from '@folvex/press';
import { runFilesOf, saveDelivery, type RunRow } from '../../data/runs';
import type { Store } from '../../files/store';
import { portTo } from '../destinations';
import type { LeasedJob } from '../queue/worker-queue';
import type { RunDeps } from './run-deps';

/** A connection that broke is tried again after growing pauses: 1, 3 and 9 s. */
const [RETRIES, RETRY_MS] = [3, 1000];

/** An attempt that another one may make good. */
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
  const port = await portTo({ db, deliveryFolder, sealer }, projectId, destination).catch(problemIn);
  // A server that is away is waited for once, not with each file.
  let retries = destination.kind === 'server' ? RETRIES : 0;
  try {
    for (const { position, path, hash, delivered } of await runFilesOf(db, id)) {
      if (delivered) continue;
      const result =
        'problem' in port ? port : await deliverStored(store, port, { path, hash }, destination.onConflict, retries);
      if ('problem' in result && result.problem.code === 'destination.copy') retries = 0;
      if (!(await held.whileHeld(job, (tx) => saveDelivery(tx.db, id, position, result)))) return false;
    }
  } finally {
    if (!('problem' in port)) await port.close();
  }
  return true;
}

function problemIn(error: unknown): { problem: Problem } {
  if (error instanceof ProblemError) return { problem: error.problem };
  throw error;
}

async function deliverStored(
  store: Store,
  port: DestinationPort,
  { path, hash }: { path: string; hash: string },
  onConflict: ConflictPolicy,
  retries: number,
): Promise<Delivered> {
  const attempt = async (from: string): Promise<Delivered> => {
    const outcome = await deliver(port, { from, hash, path }, onConflict);
    if ('problem' in outcome && outcome.problem.code === 'destination.copy') throw new NotDelivered(outcome);
    return outcome;
  };
  try {
    const from = await store.localFile(hash);
    return await pRetry(() => attempt(from), { retries, minTimeout: RETRY_MS, factor: 3 });
  } catch (error) {
    return error instanceof NotDelivered ? error.outcome : problemIn(error);
  }
}
