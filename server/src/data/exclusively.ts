import type pg from 'pg';
import { onOneConnection } from './database';

/** Keys of the advisory locks under which one worker does something for all of them. */
const LOCKS = { schedules: 7_261_704, inboxes: 7_261_705 };

/** Does something unless another process is at it; what is begun elsewhere with the same name waits for nobody. */
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
