import type { Logger } from 'pino';
import type { Job } from './queue';
import { proofStep } from './after-run';
import { assembleStep, sheetStep } from './run-steps';
import type { Workshop } from './workshop';

const IDLE_MS = 150;
const TROUBLE_MS = 500;

/** Takes jobs from the queue until stopped, `slots` at a time. */
export function startWorker(shop: Workshop, slots: number, log: Logger): { stop(): Promise<void> } {
  let stopping = false;
  const slot = async (): Promise<void> => {
    while (!stopping) {
      try {
        const busy = await takeOne(shop, log);
        if (!busy) await pause(IDLE_MS);
      } catch (error) {
        log.warn({ err: error }, 'the queue cannot be reached; trying again');
        await pause(TROUBLE_MS);
      }
    }
  };
  const running = Array.from({ length: slots }, slot);
  return {
    stop: async () => {
      stopping = true;
      await Promise.all(running);
    },
  };
}

async function takeOne(shop: Workshop, log: Logger): Promise<boolean> {
  const job = await shop.queue.fetch();
  if (!job) return false;
  try {
    await done(shop, job);
    await shop.queue.complete(job.id);
  } catch (error) {
    log.error({ err: error, job: job.work }, 'a job failed and will be tried again');
    await shop.queue.fail(job.id, error instanceof Error ? error.message : String(error));
    await pause(TROUBLE_MS);
  }
  return true;
}

function done(shop: Workshop, { work, retries }: Job): Promise<void> {
  switch (work.kind) {
    case 'assemble':
      return assembleStep(shop, work.runId, retries);
    case 'sheet':
      return sheetStep(shop, work, retries);
    case 'proof':
      return proofStep(shop, work);
  }
}

function pause(milliseconds: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, milliseconds));
}
