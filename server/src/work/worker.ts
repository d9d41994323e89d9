import type { Logger } from 'pino';
import type { QueueName, SheetJob } from './queue';
import { assembleStep, sheetStep, type Workshop } from './run-steps';

const IDLE_MS = 150;
const TROUBLE_MS = 500;

/** Takes jobs from the queue until stopped, `slots` at a time. */
export function startWorker(shop: Workshop, slots: number, log: Logger): { stop(): Promise<void> } {
  let stopping = false;
  const slot = async (): Promise<void> => {
    while (!stopping) {
      try {
        const busy = (await takeOne(shop, 'assemble', log)) || (await takeOne(shop, 'sheet', log));
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

async function takeOne(shop: Workshop, name: QueueName, log: Logger): Promise<boolean> {
  const job = await shop.queue.fetch<SheetJob>(name);
  if (!job) return false;
  try {
    if (name === 'assemble') await assembleStep(shop, job.data.runId);
    else await sheetStep(shop, job.data, job.retries);
    await shop.queue.complete(name, job.id);
  } catch (error) {
    log.error({ err: error, job: job.data }, 'a job failed and will be tried again');
    await shop.queue.fail(name, job.id, error instanceof Error ? error.message : String(error));
    await pause(TROUBLE_MS);
  }
  return true;
}

function pause(milliseconds: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, milliseconds));
}
