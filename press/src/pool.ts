import pLimit from 'p-limit';
import { Piscina } from 'piscina';
import { ProblemError, type Problem } from '@folvex/core';
import { limitProblem, STANDARD_LIMITS, type PressLimits } from './limits';
import { labelOf, pressOf, TASKS, type DoTask, type Press } from './press';

/** How many tasks may wait: far more than the sheets of a project. */
const MOST_WAITING = 20_000;

/**
 * Starts a pool of at most `threads` threads, each running the built `thread.ts` at `threadFile`. A task that takes more
 * memory or time than it may ends with its thread, and with a problem; another thread takes its place.
 */
export function createPress(threadFile: string, threads: number, limits: PressLimits = STANDARD_LIMITS): Press {
  const most = Math.max(1, threads);
  const pool = new Piscina({
    filename: threadFile,
    minThreads: 1,
    maxThreads: most,
    idleTimeout: 60_000,
    // Requests, and the browser where it is on the same machine, come first.
    niceIncrement: 5,
    resourceLimits: { maxOldGenerationSizeMb: limits.memoryMb },
  });
  // A task's time counts from when a thread takes it.
  const turns = pLimit(most);
  const doTask: DoTask = async (name, task, signal) => {
    if (turns.pendingCount >= MOST_WAITING) throw new ProblemError(TOO_BUSY);
    return turns(async () => {
      signal?.throwIfAborted();
      const deadline = new AbortController();
      const timer = setTimeout(() => deadline.abort(), limits.milliseconds);
      const ending = signal ? AbortSignal.any([signal, deadline.signal]) : deadline.signal;
      try {
        return (await pool.run(task, { name: TASKS[name].threadFunction, signal: ending })) as unknown;
      } catch (error) {
        signal?.throwIfAborted();
        const problem = limitProblem(error, labelOf(name, task), limits);
        throw problem ? new ProblemError(problem) : error;
      } finally {
        clearTimeout(timer);
      }
    });
  };
  return pressOf(doTask, () => {
    // A thread that was stopped just now would be replaced after the pool is gone.
    (pool.options as { minThreads: number }).minThreads = 0;
    return pool.destroy();
  });
}

const TOO_BUSY: Problem = {
  code: 'press.busy',
  sentence: `More than ${MOST_WAITING} tasks are waiting for a thread already; try again in a few minutes.`,
  place: {},
};
