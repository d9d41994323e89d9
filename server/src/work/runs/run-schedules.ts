import { BY_SCHEDULE, type ScheduleOutcome } from '@folvex/contract';
import { dayIn, isPaused, ProblemError, scheduledTimes, type Finding } from '@folvex/core';
import { recordAudit } from '../../data/audit';
import { databaseTime } from '../../data/clock';
import { inTransaction } from '../../data/database';
import { exclusively } from '../../data/exclusively';
import {
  forgetSchedules,
  lastChangeOf,
  saveSchedule,
  scheduledPackages,
  type ScheduledPackage,
} from '../../data/schedules';
import type { ScheduleRules } from '../../model/schedule-rules';
import { startRun, startRunIfChanged, type StartRunDeps } from './start-run';
import { tellResult } from './tell-result';

/** A package that was not published within this time after it was due is not published any more; that is told, ms. */
const MAX_LATE_MS = 3600_000;
const MS_PER_MINUTE = 60_000;
/** Times that are looked through at once: more have never been missed. */
const MAX_TIMES = 1000;
const INTERRUPTED =
  'The worker stopped while it started this run. Look at the latest run, and publish by hand if there is none.';
const STARTED_BY = { id: '', name: BY_SCHEDULE };

/** Publishes what is due now, by the clock of the database; nothing where another worker is at it. */
export async function runDueSchedules(deps: StartRunDeps, rules: ScheduleRules): Promise<void> {
  const { db, pool } = deps.connection;
  await exclusively(pool, 'schedules', async () => runSchedules(deps, await databaseTime(db), rules));
}

/** Publishes the packages that are due by their schedules. `now`: ms since 1970. */
export async function runSchedules(deps: StartRunDeps, now: number, rules: ScheduleRules): Promise<void> {
  const { db } = deps.connection;
  await forgetSchedules(db);
  for (const scheduled of await scheduledPackages(db)) {
    const { projectId, pack, state } = scheduled;
    const key = { projectId, packageId: pack.id };
    const settings = JSON.stringify([pack.publishes, pack.publishAt, pack.pausedUntil]);
    const outcome = state?.outcome ?? null;
    if (state?.settings !== settings) {
      // What was due before it was set like this is not caught up on.
      await saveSchedule(db, key, { settings, handledAt: new Date(now), outcome });
      continue;
    }
    const due = await dueTime(deps, scheduled, { after: state.handledAt.getTime(), now, ...rules });
    if (due === undefined) continue;
    // What changes after this is another change, whatever time it is when this one is seen to.
    const handledAt = new Date(pack.publishes === 'change' ? due : now);
    // Written before anything is sent: what a worker was stopped at is told, and not done a second time.
    const begun = { ...timesOf(due, now), run: null, sentence: INTERRUPTED };
    await saveSchedule(db, key, { settings, handledAt, outcome: begun });
    const told = await outcomeOf(deps, scheduled, { due, now, zone: rules.zone });
    await inTransaction(deps.connection.pool, async (tx) => {
      await saveSchedule(tx.db, key, { settings, handledAt, outcome: told ?? outcome });
      // The result of a run is emailed once it has ended.
      if (told && told.sentence !== null)
        await tellResult(tx, deps.queue, { projectId, pack, run: told.run }, { problem: told.sentence });
    });
    if (!told) continue;
    const event = told.run === null ? 'schedule.stopped' : 'schedule.published';
    const subject = [pack.name, told.sentence].filter(Boolean).join(': ');
    await recordAudit(db, { by: null, event, projectId, subject });
  }
}

/** When a package was due last after a time, ms since 1970; undefined: it is not due. */
async function dueTime(
  { connection: { db } }: StartRunDeps,
  { projectId, pack }: ScheduledPackage,
  { after, now, zone, quietMinutes }: ScheduleRules & { after: number; now: number },
): Promise<number | undefined> {
  if (pack.publishes !== 'change')
    return scheduledTimes(pack, { after, zone, count: MAX_TIMES }).findLast((at) => at <= now);
  const changed = (await lastChangeOf(db, projectId))?.getTime();
  const isDue = changed !== undefined && changed > after && now - changed >= quietMinutes * MS_PER_MINUTE;
  return isDue && !isPaused(pack, now, zone) ? changed : undefined;
}

/** What comes of a package that is due; undefined where there is nothing to tell: it is as it was published. */
async function outcomeOf(
  deps: StartRunDeps,
  { projectId, pack }: ScheduledPackage,
  { due, now, zone }: { due: number; now: number; zone: string },
): Promise<ScheduleOutcome | undefined> {
  const told = (run: string | null, sentence: string | null): ScheduleOutcome => ({
    ...timesOf(due, now),
    run,
    sentence,
  });
  const byChange = pack.publishes === 'change';
  if (!byChange && now - due > MAX_LATE_MS)
    return told(null, 'It was missed: Folvex was not running then. Publish it by hand, or wait for the next time.');
  const within = { project: projectId, by: STARTED_BY };
  const start = byChange ? startRunIfChanged : startRun;
  try {
    const started = await start(deps, within, pack.id, dayIn(zone, new Date(now)));
    // Nothing to publish, or the package was removed meanwhile.
    if (started === 'unchanged' || !started) return undefined;
    return 'runId' in started ? told(started.runId, null) : told(null, stopInWords(started.findings));
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    return told(null, error.problem.sentence);
  }
}

function timesOf(due: number, now: number): Pick<ScheduleOutcome, 'due' | 'at'> {
  return { due: new Date(due).toISOString(), at: new Date(now).toISOString() };
}

/** The first finding that stops a run, and how many more there are. */
function stopInWords(findings: readonly Finding[]): string {
  const [first, ...more] = findings.filter(({ severity }) => severity === 'stop');
  return more.length === 0 ? first!.sentence : `${first!.sentence} There are ${more.length} more like this.`;
}
