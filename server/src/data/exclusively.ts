import type pg from 'pg';
import { onOneConnection } from './database';

/** Keys of the advisory locks for what only one worker does at a time. */
const LOCKS = { schedules: 7_261_704, inboxes: 7_261_705 };

/** Does some work unless another process is doing it; does not wait for that one. */
export async function exclusively(pool: pg.Pool, what: keyof typeof LOCKS, work: () => Promise<void>): Promise<void> {
  await onOneConnection(pool, async (client) => {
    const { rows } = await client.query<{ locked: boolean }>('select pg_try_advisory_lock($1) as locked', [
      LOCKS[what],
    ]);
    if (!rows[0]!.locked) return;
    try {
      await work();
    } finally {
      await client.query('select pg_advisory_unlock($1)', [LOCKS[what]]);
    }
  });
}
