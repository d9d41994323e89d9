import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import { Worker } from 'node:worker_threads';

/** The sign of life of a worker process. */
export interface Heartbeat {
  readonly workerId: string;
  stop(): Promise<void>;
}

export interface HeartbeatData {
  url: string;
  workerId: string;
  host: string;
  pid: number;
}

const RESTART_MS = 1000;

/**
 * Starts the heartbeat of this process in a thread of its own, with a connection of its own: it beats however busy or
 * blocked the thread is that works. `threadFile` is the built code of `heartbeat-thread.ts`.
 */
export function startHeartbeat(threadFile: string, url: string): Heartbeat {
  const workerData: HeartbeatData = { url, workerId: randomUUID(), host: hostname(), pid: process.pid };
  let stopping = false;
  let thread: Worker;
  const start = (): void => {
    thread = new Worker(threadFile, { workerData });
    thread.on('error', () => undefined);
    thread.on('exit', () => {
      if (!stopping) setTimeout(start, RESTART_MS).unref();
    });
  };
  start();
  return {
    workerId: workerData.workerId,
    stop: () =>
      new Promise((resolve) => {
        stopping = true;
        thread.once('exit', () => resolve());
        thread.postMessage('stop');
      }),
  };
}
