import type { Press } from '@folvex/press';
import type { Database } from '../data/database';
import { runById, type RunRow } from '../data/runs';
import type { Store } from '../files/store';
import type { Queue } from './queue';

/** What the steps of a run need. */
export interface Workshop {
  db: Database;
  store: Store;
  press: Press;
  queue: Queue;
  /** Packages are delivered below it. */
  deliveryFolder: string;
}

const KEPT_RUNS = 4;
/** What of a run never changes. */
export type FrozenRun = Pick<RunRow, 'id' | 'input'>;

const kept = new Map<string, FrozenRun>();

/** A run as it was begun, read once for all its sheets. */
export async function frozen(db: Database, runId: string): Promise<FrozenRun | undefined> {
  const known = kept.get(runId) ?? (await runById(db, runId));
  if (known) kept.set(runId, known);
  if (kept.size > KEPT_RUNS) kept.delete(kept.keys().next().value!);
  return known;
}
