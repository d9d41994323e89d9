import { and, count, gt, inArray, sql } from 'drizzle-orm';
import type { Database } from './database';
import { runs, runSheets, workers } from './schema';

/** How many workers showed themselves within so many seconds. */
export function aliveWorkers(db: Database, seconds: number): Promise<number> {
  return db.$count(workers, gt(workers.seenAt, sql`now() - make_interval(secs => ${seconds})`));
}

/** Runs by their state, and how many sheets of those that go on are still to be made. */
export async function workload(db: Database): Promise<{ runs: Record<string, number>; waitingSheets: number }> {
  const states = await db.select({ state: runs.state, count: count() }).from(runs).groupBy(runs.state);
  const open = db
    .select({ id: runs.id })
    .from(runs)
    .where(inArray(runs.state, ['waiting', 'running']));
  const waitingSheets = await db.$count(
    runSheets,
    and(sql`${runSheets.state} = 'waiting'`, inArray(runSheets.runId, open)),
  );
  return { runs: Object.fromEntries(states.map(({ state, count }) => [state, count])), waitingSheets };
}
