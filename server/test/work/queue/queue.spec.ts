import { inTransaction } from '../../../src/data/database';
import { openQueue } from '../../../src/work/queue/queue';
import type { LeasedJob, WorkerQueue } from '../../../src/work/queue/worker-queue';
import { until, useServer } from '../../support/harness';

const server = useServer();
const LEASE_SECONDS = 60;

const sheets = (runId: string, count: number) => Array.from({ length: count }, (_, position) => ({ runId, position }));
const add = (runId: string, count: number): Promise<void> =>
  inTransaction(server.services.connection.pool, (tx) => server.services.queue.addSheets(tx, sheets(runId, count)));

/** A worker that fetches jobs; it has no heartbeat, and is silent for so many seconds. */
async function worker(id: string, silentSeconds = 0): Promise<WorkerQueue> {
  const { connection, queue } = server.services;
  await connection.pool.query(
    `insert into workers (id, host, pid, seen_at) values ($1, 'test', 1, now() - make_interval(secs => $2))`,
    [id, silentSeconds],
  );
  return queue.forWorker(id, LEASE_SECONDS);
}

async function drain(queue: WorkerQueue): Promise<LeasedJob[]> {
  const given: LeasedJob[] = [];
  for (let [job] = await queue.fetch(1); job; [job] = await queue.fetch(1)) {
    given.push(job);
    await queue.finish([job], async () => undefined);
  }
  return given;
}

it('gives out what ends a run first, small runs before large ones, and last what nobody waits for', async () => {
  const { queue, connection } = server.services;
  await inTransaction(connection.pool, async (tx) => {
    await queue.addProofs(tx, [{ runId: 'old', position: 0 }]);
    await queue.addSheets(tx, sheets('large', 12));
    await queue.addSheets(tx, sheets('small', 2));
    await queue.addDelivery(tx, { id: 'sent', renewals: 0 });
    await queue.addAssembly(tx, 'old');
  });
  const given = await drain(await worker('priorities'));
  expect(given.map(({ task }) => `${task.kind} ${'runId' in task ? task.runId : ''}`)).toEqual([
    'assemble old',
    ...Array<string>(2).fill('sheet small'),
    ...Array<string>(12).fill('sheet large'),
    'proof old',
  ]);
});

it('gives out deliveries by themselves, and postponed ones when their time has come', async () => {
  const { queue, connection } = server.services;
  await inTransaction(connection.pool, async (tx) => {
    await queue.addDelivery(tx, { id: 'at once', renewals: 0 });
    await queue.addDelivery(tx, { id: 'postponed', renewals: 0 }, 3600);
  });
  const sender = await worker('sender');
  expect(await sender.fetch(5)).toEqual([]);
  const given = await sender.fetch(5, 'sending');
  expect(given.map(({ task }) => task)).toMatchObject([
    { kind: 'deliver', deliveryId: 'sent' },
    { kind: 'deliver', deliveryId: 'at once' },
  ]);
  // Given back, they are in their queue again.
  await sender.giveBack(given, 'to be tried again', false);
  await connection.pool.query(`update pgboss.job set start_after = now() where data->>'deliveryId' = 'postponed'`);
  const again = await sender.fetch(5, 'sending');
  expect(again).toHaveLength(3);
  await sender.finish(again, async () => undefined);
  expect(await sender.fetch(5, 'sending')).toEqual([]);
});

it('lets an attempt that lost its lease change nothing, and does not count a stalled worker as a crash', async () => {
  await add('stalled', 1);
  const [stalled, other] = [await worker('stalled', LEASE_SECONDS + 1), await worker('other')];
  // A healthy machine may stall: as long as the connection of the worker lives, only the lease counts.
  const client = await server.services.connection.pool.connect();
  try {
    await client.query(`select pg_advisory_lock(7261702, hashtext('stalled'))`);
    const [first] = await stalled.fetch(5);
    expect(await other.fetch(5)).toEqual([]);
    expect(await other.reclaim()).toBe(1);
    const [second] = await other.fetch(5);
    expect(second).toMatchObject({ id: first!.id, crashes: 0, failures: 0 });
    expect(second!.attempt).not.toBe(first!.attempt);
    const written: string[] = [];
    await stalled.finish([first!], async () => void written.push('stalled'));
    expect(await stalled.whileHeld(first!, async () => void written.push('stalled'))).toBe(false);
    await stalled.giveBack([first!], 'late', true);
    expect(await other.whileHeld(second!, async () => void written.push('other holds'))).toBe(true);
    await other.finish([second!], async () => void written.push('other'));
    expect(written).toEqual(['other holds', 'other']);
    expect(await other.fetch(5)).toEqual([]);
  } finally {
    client.release(true);
  }
});

it('gives the jobs of a worker whose connection is gone to others before its lease ends, and counts that', async () => {
  await add('crashed', 2);
  const [crashed, other] = [await worker('crashed', 10), await worker('other crashed')];
  expect(await crashed.fetch(5)).toHaveLength(2);
  // A database that has just started may have cut the connections itself: it takes seconds until that tells something.
  await until(
    () => other.reclaim(),
    (count) => count === 2,
  );
  expect(await other.reclaim()).toBe(0);
  expect((await drain(other)).map(({ crashes }) => crashes)).toEqual([1, 1]);
});

it('counts a try that failed, and not one that only lost the database', async () => {
  await add('failed', 1);
  const queue = await worker('failing');
  for (const [counted, failures] of [
    [true, 0],
    [false, 1],
    [true, 1],
  ] as const) {
    const [job] = await queue.fetch(1);
    expect(job!.failures).toBe(failures);
    await queue.giveBack([job!], 'said why', counted);
  }
  expect((await drain(queue)).map(({ failures }) => failures)).toEqual([2]);
});

it('writes nothing of a job whose writing failed, and gives it out again', async () => {
  await add('rolled back', 1);
  const queue = await worker('writing');
  const [job] = await queue.fetch(1);
  const { pool } = server.services.connection;
  await expect(
    queue.finish([job!], async (tx) => {
      await tx.client.query(`insert into workers (id, host, pid) values ('half', 'test', 1)`);
      throw new Error('broke');
    }),
  ).rejects.toThrow('broke');
  expect((await pool.query(`select from workers where id = 'half'`)).rowCount).toBe(0);
  await queue.giveBack([job!], 'broke', true);
  expect(await drain(queue)).toHaveLength(1);
});

it('gives no job to a worker without a heartbeat: nobody would notice if it died', async () => {
  await add('unregistered', 1);
  const early = server.services.queue.forWorker('early', LEASE_SECONDS);
  expect(await early.fetch(5)).toEqual([]);
  await worker('early');
  expect(await early.fetch(5)).toHaveLength(1);
  // A worker that ends removes its row, even if it still holds jobs.
  await server.services.connection.pool.query(`delete from workers where id = 'early'`);
  const other = await worker('after the early one');
  expect(await other.reclaim()).toBe(1);
  expect((await drain(other)).map(({ crashes, failures }) => [crashes, failures])).toEqual([[0, 0]]);
});

it('gives back jobs when the connection broke while it took them', async () => {
  await add('doubtful', 1);
  await worker('doubtful');
  const { connection } = server.services;
  let isAway = true;
  // The transaction is committed, but the answer never arrives.
  const pool = {
    query: connection.pool.query.bind(connection.pool),
    connect: async () => {
      const client = await connection.pool.connect();
      const query = async (text: unknown, ...rest: unknown[]) => {
        const answer: unknown = await (client.query as (...all: unknown[]) => Promise<unknown>)(text, ...rest);
        if (isAway && text === 'commit') throw Object.assign(new Error('gone'), { code: 'ECONNRESET' });
        return answer;
      };
      return new Proxy(client, {
        get: (target, key) => (key === 'query' ? query : (Reflect.get(target, key) as unknown)),
      });
    },
  };
  const queue = await openQueue(server.databaseUrl, { ...connection, pool: pool as unknown as typeof connection.pool });
  try {
    const held = queue.forWorker('doubtful', LEASE_SECONDS);
    await expect(held.fetch(5)).rejects.toThrow('gone');
    const other = await worker('next to the doubtful one');
    expect(await other.fetch(5)).toEqual([]);
    isAway = false;
    expect(await held.reclaim()).toBe(1);
    expect(await held.fetch(5)).toHaveLength(1);
    // What it knows that it holds stays with it.
    expect(await held.reclaim()).toBe(0);
  } finally {
    await queue.close();
  }
});

it('does not let pg-boss expire a job while its worker holds it', async () => {
  await add('long', 1);
  const { rows } = await server.services.connection.pool.query<{ hours: number }>(
    `select extract(epoch from expire_in)::int / 3600 as hours from pgboss.job where data->>'runId' = 'long'`,
  );
  expect(rows).toEqual([{ hours: 23 }]);
});
