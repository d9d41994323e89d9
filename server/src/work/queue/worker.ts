import type { Logger } from 'pino';
import { BucketAway } from '@folvex/press';
import { isDatabaseAway } from '../../data/database';
import { sendDelivery } from '../deliveries/send-delivery';
import { assembleRun } from '../runs/assemble-run';
import { makeSheets, type SheetJob } from '../runs/make-sheets';
import { proveFile } from '../runs/prove-file';
import type { RunDeps } from '../runs/run-deps';
import { sendTelling } from '../runs/tell-result';
import { makeCall } from '../webhooks/make-call';
import type { QueueName } from './pg-boss';
import type { LeasedJob } from './worker-queue';

/** Jobs are looked for this often even where no notification came. */
const IDLE_MS = 1000;
const RETRY_MS = 500;
const RECLAIM_MS = 1000;
/** A batch should take about this long: short enough for priorities and for the display of progress. */
const BATCH_MS = 400;
const MAX_BATCH = 32;
/** Deliveries in parallel: they wait for other machines, and take no threads. */
const SENDING_SLOTS = 4;

export interface Worker {
  stop(): Promise<void>;
}

/** Takes jobs from the queues until stopped: `slots` batches of publishing at a time, and a few deliveries. */
export function startWorker(deps: RunDeps, slots: number, log: Logger): Worker {
  const stopping = new AbortController();
  const wakers = new Set<() => void>();
  const wake = (): void => wakers.forEach((waker) => waker());
  stopping.signal.addEventListener('abort', wake);
  const unlisten = deps.notifications.on('jobs_added', wake);
  const pause = (milliseconds: number): Promise<void> =>
    new Promise((resolve) => {
      if (stopping.signal.aborted) return resolve();
      const done = (): void => {
        clearTimeout(timer);
        wakers.delete(done);
        resolve();
      };
      const timer = setTimeout(done, milliseconds);
      wakers.add(done);
    });
  const slot = async (queue: QueueName): Promise<void> => {
    let batchSize = 1;
    while (!stopping.signal.aborted) {
      try {
        const jobs = await deps.held.fetch(queue === 'sending' ? 1 : batchSize, queue);
        if (jobs.length === 0) await pause(IDLE_MS);
        else batchSize = nextBatchSize(jobs.length, await timed(() => workOn(deps, jobs, log, pause, stopping.signal)));
      } catch (error) {
        log.warn({ err: error }, 'the queue cannot be reached; trying again');
        await pause(RETRY_MS);
      }
    }
  };
  const reclaim = async (): Promise<void> => {
    const count = await deps.held.reclaim().catch(() => 0);
    if (count > 0) log.warn({ count }, 'jobs of a lost worker are given to others');
  };
  let reclaiming = Promise.resolve();
  const timer = setInterval(() => (reclaiming = reclaiming.then(reclaim)), RECLAIM_MS);
  const running = [
    ...Array.from({ length: slots }, () => slot('publishing')),
    ...Array.from({ length: SENDING_SLOTS }, () => slot('sending')),
  ];
  return {
    stop: async () => {
      stopping.abort();
      unlisten();
      clearInterval(timer);
      await Promise.all([...running, reclaiming]);
    },
  };
}

/** How many jobs to take next, so that they take about `BATCH_MS` together. */
export function nextBatchSize(count: number, milliseconds: number): number {
  const fitting = Math.floor((BATCH_MS * count) / Math.max(1, milliseconds));
  return Math.min(MAX_BATCH, Math.max(1, Math.min(fitting, count * 4)));
}

async function timed(work: () => Promise<void>): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

type Pause = (milliseconds: number) => Promise<void>;

/** Works on fetched jobs: one by one, but sheets of one run together. */
async function workOn(
  deps: RunDeps,
  jobs: readonly LeasedJob[],
  log: Logger,
  pause: Pause,
  stopping: AbortSignal,
): Promise<void> {
  for (const batch of batchesOf(jobs)) {
    try {
      await workOnBatch(deps, batch);
    } catch (error) {
      const away = isDatabaseAway(error) || error instanceof BucketAway;
      log[away ? 'warn' : 'error'](
        { err: error, jobs: batch.map(({ task }) => task) },
        'jobs failed and are tried again',
      );
      await giveBack(deps, batch, error, !away, pause, stopping);
    }
  }
}

/** Jobs must not stay with a worker that no longer works on them: tries until they are back. */
async function giveBack(
  { held }: RunDeps,
  batch: readonly LeasedJob[],
  cause: unknown,
  counted: boolean,
  pause: Pause,
  stopping: AbortSignal,
): Promise<void> {
  const reason = cause instanceof Error ? cause.message : String(cause);
  for (;;) {
    try {
      await pause(RETRY_MS);
      return await held.giveBack(batch, reason, counted);
    } catch (error) {
      if (stopping.aborted) throw error;
    }
  }
}

/**
 * Sheets of the same run form a batch, in the order in which the jobs came. A job that failed or crashed before is a
 * batch of its own, after the others: it must not take them down with it again.
 */
export function batchesOf(jobs: readonly LeasedJob[]): LeasedJob[][] {
  const suspects = jobs.filter(({ crashes, failures }) => crashes + failures > 0);
  const batches = new Map<string, LeasedJob[]>();
  for (const job of jobs) {
    if (suspects.includes(job)) continue;
    const key = job.task.kind === 'sheet' ? job.task.runId : job.id;
    batches.set(key, [...(batches.get(key) ?? []), job]);
  }
  return [...batches.values(), ...suspects.map((job) => [job])];
}

function workOnBatch(deps: RunDeps, batch: readonly LeasedJob[]): Promise<void> {
  const [job] = batch as [LeasedJob];
  const { task } = job;
  switch (task.kind) {
    case 'assemble':
      return assembleRun(deps, job, task.runId);
    case 'sheet':
      return makeSheets(deps, task.runId, batch as SheetJob[]);
    case 'deliver':
      return sendDelivery(deps, job, { id: task.deliveryId, renewals: task.renewals ?? 0 });
    case 'tell':
      return sendTelling(deps, job, task);
    case 'call':
      return makeCall(deps, job, task.callId);
    case 'proof':
      return proveFile(deps, job, task);
  }
}
