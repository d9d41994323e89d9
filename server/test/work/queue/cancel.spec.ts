import request from 'supertest';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { assembleRun } from '../../../src/work/runs/assemble-run';
import { makeSheets, type SheetJob } from '../../../src/work/runs/make-sheets';
import type { RunDeps } from '../../../src/work/runs/run-deps';
import { useServer } from '../../support/harness';

const server = useServer();
const LEASE_SECONDS = 60;

/** What the threads of a worker do from now on: nothing, until they are told to end. */
function endless() {
  let begin = (): void => undefined;
  const begun = new Promise<void>((resolve) => (begin = resolve));
  const task = (_task: unknown, signal?: AbortSignal): Promise<never> =>
    new Promise((_, reject) => {
      signal!.addEventListener('abort', () => reject(signal!.reason as Error));
      begin();
    });
  return { begun, press: { ...server.services.press, makeSheet: task, assemble: task } };
}

it.each(['while its sheets are made', 'while its files are assembled'])(
  'a run that is cancelled %s',
  async (when) => {
    const { queue, connection } = server.services;
    const at = { project: server.project, package: 'permit' };
    const { body } = await request(server.app).post(path(ROUTES.runs, at)).send({}).expect(201);
    const { id } = body as RunInfo;
    await connection.pool.query(`insert into workers (id, host, pid) values ($1, 'test', 1)`, [when]);
    const held = queue.forWorker(when, LEASE_SECONDS);
    const deps: RunDeps = { ...server.services, held };
    const { begun, press } = endless();
    let working: Promise<void>;
    const jobs = (await held.fetch(50)) as SheetJob[];
    if (when.includes('sheets')) working = makeSheets({ ...deps, press }, id, jobs);
    else {
      await makeSheets(deps, id, jobs);
      const [job] = await held.fetch(1);
      working = assembleRun({ ...deps, press }, job!, id);
    }
    await begun;
    await request(server.app)
      .post(path(ROUTES.runCancel, { run: id }))
      .expect(200);
    // Its threads are told to end in the middle of their work, and nothing of it is left to do.
    await working;
    expect(await held.fetch(50)).toEqual([]);
    const { body: after } = await request(server.app).get(path(ROUTES.run, { run: id }));
    expect(after).toMatchObject({ state: 'cancelled', files: [] });
  },
  60_000,
);
