import { useServer } from './harness';

const server = useServer();

it('gives out what ends a run first, small runs before large ones, and last what nobody waits for', async () => {
  const { queue, connection } = server.services;
  const jobs = (runId: string, count: number) => Array.from({ length: count }, (_, position) => ({ runId, position }));
  const client = await connection.pool.connect();
  try {
    await queue.addProof({ runId: 'old', position: 0 });
    await queue.addSheets(jobs('large', 12), client);
    await queue.addSheets(jobs('small', 2), client);
    await queue.addAssembly('old');
  } finally {
    client.release();
  }
  const given: string[] = [];
  for (let job = await queue.fetch(); job; job = await queue.fetch()) {
    given.push(`${job.work.kind} ${job.work.runId}`);
    await queue.complete(job.id);
  }
  expect(given).toEqual([
    'assemble old',
    ...jobs('small', 2).map(() => 'sheet small'),
    ...jobs('large', 12).map(() => 'sheet large'),
    'proof old',
  ]);
});
