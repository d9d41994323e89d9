import { parentPort, workerData } from 'node:worker_threads';
import pg from 'pg';
import { forgetWorker, registerWorker, showAlive } from '../../data/leases';
import type { HeartbeatData } from './heartbeat';

const BEAT_MS = 1000;
const { url, workerId, host, pid } = workerData as HeartbeatData;

let client: pg.Client | undefined;

/** Beats once, on a new connection where the last one broke. */
async function beat(): Promise<void> {
  if (client) return whileConnected(client, (current) => showAlive(current, workerId, host, pid));
  const next = new pg.Client({ connectionString: url });
  next.on('error', () => lose(next));
  next.on('end', () => lose(next));
  await whileConnected(next, async () => {
    await next.connect();
    await registerWorker(next, workerId, host, pid);
    client = next;
  });
}

/** Works on a connection, and closes it where that fails: the next beat takes a new one. */
async function whileConnected(connection: pg.Client, work: (connection: pg.Client) => Promise<void>): Promise<void> {
  try {
    await work(connection);
  } catch {
    lose(connection);
    await connection.end().catch(() => undefined);
  }
}

function lose(connection: pg.Client): void {
  if (client === connection) client = undefined;
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
