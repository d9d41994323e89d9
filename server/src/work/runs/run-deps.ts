import { LRUCache } from 'lru-cache';
import type { Press } from '@folvex/press';
import type { Database } from '../../data/database';
import { runById, type RunRow } from '../../data/runs';
import type { Notifications } from '../../data/notifications';
import type { Store } from '../../files/store';
import type { Sealer } from '../access/secrets';
import type { Queue } from '../queue/queue';
import type { WorkerQueue } from '../queue/worker-queue';

/** What the steps of a run need. */
export interface RunDeps {
  db: Database;
  store: Store;
  press: Press;
  /** For adding the next steps. */
  queue: Queue;
  /** For ending the steps that this worker holds. */
  held: WorkerQueue;
  /** Tells that a run was cancelled. */
  notifications: Notifications;
  /** Packages are delivered below it. */
  deliveryFolder: string;
  /** Opens passwords of transfer servers, and signs links. */
  sealer: Sealer;
  /** The address that people of an office open, without a slash at its end; undefined: Folvex serves this machine only. */
  officeUrl?: string | undefined;
}

/** What of a run never changes. */
export type FrozenRun = Pick<RunRow, 'id' | 'input'>;

const cached = new LRUCache<string, FrozenRun>({ max: 4 });

/** A run as it was begun, read once for all its sheets. */
export async function frozenRun(db: Database, runId: string): Promise<FrozenRun | undefined> {
  const known = cached.get(runId) ?? (await runById(db, runId));
  if (known) cached.set(runId, known);
  return known;
}
