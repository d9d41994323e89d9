import { ProblemError, type Problem } from '@folvex/core';
import { StepFailed } from '@folvex/press';
import type { Database } from '../../data/database';
import type { RunFileRow } from '../../data/runs';
import type { LeasedJob } from '../queue/worker-queue';
import type { RunDeps } from '../runs/run-deps';

/**
 * How an attempt ended: all files have a receipt, the server went away or lets nobody in, or the delivery is no longer this
 * worker's to make.
 */
export type Attempt =
  | { ended: 'through' }
  /** A plotter has all jobs, and is looked at again. */
  | { ended: 'printing' }
  | { ended: 'given up' }
  | { ended: 'away'; problem: Problem }
  | { ended: 'refused'; problem: Problem };

/** The files of a run that a delivery has no receipt of yet. */
export type UnsentFile = Pick<RunFileRow, 'position' | 'path' | 'hash' | 'format' | 'sheets'>;

/** What a write resolves to, if the job is still held; false where it is not. */
export async function whileHeld(
  { held }: RunDeps,
  job: LeasedJob,
  write: (db: Database) => Promise<boolean>,
): Promise<boolean> {
  let written = false;
  const isHeld = await held.whileHeld(job, async (tx) => void (written = await write(tx.db)));
  return isHeld && written;
}

/** How an attempt ended that failed with an error of a port; rethrows any other. */
export function attemptFailed(error: unknown): Attempt {
  if (error instanceof ProblemError) return { ended: 'refused', problem: error.problem };
  if (!(error instanceof StepFailed)) throw error;
  const { step, sentence } = error;
  return step === 'connection'
    ? { ended: 'away', problem: { code: 'destination.away', sentence, place: {} } }
    : { ended: 'refused', problem: { code: 'destination.refused', sentence, place: {} } };
}
