import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import request from 'supertest';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { runById } from '../../../src/data/runs';
import type { DeliveryQueueTask } from '../../../src/model/queue-task';
import { sendDelivery } from '../../../src/work/deliveries/send-delivery';
import { assembleRun } from '../../../src/work/runs/assemble-run';
import { makeSheets, type SheetJob } from '../../../src/work/runs/make-sheets';
import { proveFile } from '../../../src/work/runs/prove-file';
import type { QueueName } from '../../../src/work/queue/pg-boss';
import type { RunDeps } from '../../../src/work/runs/run-deps';
import type { LeasedJob, WorkerQueue } from '../../../src/work/queue/worker-queue';
import { useServer } from '../../support/harness';

const LEASE_SECONDS = 60;

/** Each step done by two workers side by side, one of which has lost its lease without knowing it. */
describe('a step of a run that is done twice at once', () => {
  const server = useServer();
  const dependencies = (held: WorkerQueue): RunDeps => ({ ...server.services, held });

  /** Two workers that both believe they hold the most pressing jobs; only the second one does. */
  async function twice(
    count: number,
    from: QueueName = 'publishing',
  ): Promise<[first: LeasedJob[], second: LeasedJob[], RunDeps, RunDeps]> {
    const { queue, connection } = server.services;
    const [one, other] = ['one', 'other'].map((name) => `${name} ${Math.random()}`) as [string, string];
    for (const id of [one, other]) {
      await connection.pool.query(`insert into workers (id, host, pid) values ($1, 'test', 1)`, [id]);
    }
    const [first, second] = [queue.forWorker(one, LEASE_SECONDS), queue.forWorker(other, LEASE_SECONDS)];
    const lost = await first.fetch(count, from);
    await connection.pool.query(`update workers set seen_at = now() - interval '1 hour' where id = $1`, [one]);
    expect(await second.reclaim()).toBe(lost.length);
    const held = await second.fetch(count, from);
    expect(held.map(({ id }) => id).sort()).toEqual(lost.map(({ id }) => id).sort());
    return [lost, held, dependencies(first), dependencies(second)];
  }

  it('leaves what once would have: sheets, files, deliveries and proofs', async () => {
    const at = { project: server.project, package: 'tender' };
    const destination = { kind: 'folder' as const, folder: 'tender', onConflict: 'stop' };
    await request(server.app)
      .patch(path(ROUTES.package, at))
      .send({ destinations: [destination] })
      .expect(200);
    const { body } = await request(server.app).post(path(ROUTES.runs, at)).send({}).expect(201);
    const { id } = body as RunInfo;
    const told = async (): Promise<RunInfo> =>
      (await request(server.app).get(path(ROUTES.run, { run: id }))).body as RunInfo;

    const [lostSheets, sheets, before, now] = await twice(50);
    expect(sheets.every(({ task }) => task.kind === 'sheet')).toBe(true);
    await Promise.all([makeSheets(before, id, lostSheets as SheetJob[]), makeSheets(now, id, sheets as SheetJob[])]);
    expect((await told()).sheets.map(({ state }) => state)).toEqual(sheets.map(() => 'done'));

    const [[lostAssembly], [assembly], assembledBefore, assembledNow] = await twice(50);
    expect(assembly!.task).toEqual({ kind: 'assemble', runId: id });
    await Promise.all([assembleRun(assembledBefore, lostAssembly!, id), assembleRun(assembledNow, assembly!, id)]);
    const done = await told();
    expect([done.state, done.problem, done.files.length]).toEqual(['done', null, 8]);

    const [lostJobs, jobs, sentBefore, sentNow] = await twice(1, 'sending');
    const send = (deps: RunDeps, [job]: LeasedJob[]): Promise<void> =>
      sendDelivery(deps, job!, { id: (job!.task as DeliveryQueueTask).deliveryId, renewals: 0 });
    await Promise.all([send(sentBefore, lostJobs), send(sentNow, jobs)]);
    // Whichever of them copied a file, it counts as delivered.
    const [delivery] = (await told()).deliveries;
    expect([delivery!.state, delivery!.receipts.length]).toEqual(['done', 8]);
    for (const { outcome } of delivery!.receipts) expect(outcome).not.toHaveProperty('problem');
    const folder = join(server.data, 'delivered', 'tender');
    const files = readdirSync(folder, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
    expect(files).toHaveLength(8);

    const [lostProofs, proofs, provedBefore, provedNow] = await twice(50);
    expect(proofs).toHaveLength(8);
    const prove = (deps: RunDeps, jobs: LeasedJob[]): Promise<unknown> =>
      Promise.all(jobs.map((job) => (job.task.kind === 'proof' ? proveFile(deps, job, job.task) : undefined)));
    await Promise.all([prove(provedBefore, lostProofs), prove(provedNow, proofs)]);
    expect((await told()).files.every(({ proof }) => proof!.differences.length === 0)).toBe(true);
    expect(await dependencies(provedNow.held).held.fetch(50)).toEqual([]);
    expect((await runById(server.services.db, id))!.state).toBe('done');
  });
});
