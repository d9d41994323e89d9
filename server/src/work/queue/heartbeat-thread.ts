import { parentPort, workerData } from 'node:worker_threads';
import pg from 'pg';
import { forgetWorker, registerWorker, showAlive } from '../../data/leases';
import type { HeartbeatData } from './heartbeat';

const BEAT_MS = 1000;
const { url, workerId, host, pid } = workerData as HeartbeatData;

let client: pg.Client | undefined;

/** Beats once, on a new connection where the last one broke. */
async function beat(): Promise<void> {
  try {
    if (!client) {
      const next = new pg.Client({ connectionString: url });
      next.on('error', () => (client = undefined));
      next.on('end', () => (client = undefined));
      await next.connect();
      await registerWorker(next, workerId, host, pid);
      client = next;
    } else await showAlive(client, workerId, host, pid);
  } catch {
    const broken = client;
    client = undefined;
    await broken?.end().catch(() => undefined);
  }
}

let last = beat();
const timer = setInterval(() => (last = last.then(beat)), BEAT_MS);

parentPort!.on('message', () => {
  clearInterval(timer);
  void last
    .then(() => client && forgetWorker(client, workerId))
    .then(() => client?.end())
    .catch(() => undefined)
    .finally(() => process.exit(0));
});
