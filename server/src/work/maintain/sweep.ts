import { databaseTime } from '../../data/clock';
import { referencedHashes } from '../../data/references';
import { purge, tryLockSweep, unlockSweep, type Purged, type Retention } from '../../data/retention';
import { onOneConnection, type Connection } from '../../data/database';
import type { Store } from '../../files/store';

/** What a sweep deleted: rows past their time, and content that nothing refers to any more. */
export interface Swept extends Purged {
  contents: number;
  bytes: number;
}

/** Content is in the store before anything refers to it: what was asked for within this time is left alone. */
export const GRACE_MS = 24 * 3600_000;
const MS_PER_HOUR = 3600_000;
/** Clocks may be this far apart, ms: little of the grace period. */
const MAX_APART_MS = MS_PER_HOUR;

/**
 * Deletes what is past its time, then content that nothing refers to and nobody has asked for within the grace
 * period (ms). Undefined where another process sweeps, or a backup is being made.
 */
export function sweep(
  connection: Connection,
  store: Store,
  retention: Retention,
  graceMs = GRACE_MS,
): Promise<Swept | undefined> {
  return onOneConnection(connection.pool, async (client) => {
    if (!(await tryLockSweep(client))) return undefined;
    try {
      await refuseOtherClock(connection);
      const since = Date.now() - graceMs;
      const purged = await purge(connection.db, retention);
      const referenced = await referencedHashes(client);
      const swept = { ...purged, contents: 0, bytes: 0 };
      for await (const { hash, bytes, usedAt } of store.contents()) {
        if (usedAt >= since || referenced.has(hash) || !(await store.removeUnused(hash, since))) continue;
        swept.contents++;
        swept.bytes += bytes;
      }
      await store.purge(since, (hash) => referenced.has(hash));
      await store.removeUnfinished(since);
      return swept;
    } finally {
      await unlockSweep(client);
    }
  });
}

/**
 * Refuses to sweep while this machine's clock is off: the grace period goes by it, and with a clock that is days ahead
 * everything would look unused.
 */
async function refuseOtherClock({ db }: Connection): Promise<void> {
  const apart = Math.abs(Date.now() - (await databaseTime(db)));
  if (apart <= MAX_APART_MS) return;
  const hours = Math.round(apart / MS_PER_HOUR);
  throw new Error(`The clocks of this machine and of the database are ${hours} h apart; set them right, then sweep.`);
}
