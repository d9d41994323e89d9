import request from 'supertest';
import { path, ROUTES, type ProjectInfo, type RunInfo, type StorageInfo } from '@folvex/contract';
import { createApp } from '../../src/http/app';
import { until, useServer } from '../support/harness';

const server = useServer();
beforeAll(() => server.work());

const limited = (maxProjectBytes: number) => createApp({ ...server.services, maxProjectBytes });
const storage = async (app = server.app): Promise<StorageInfo> =>
  (await request(app).get(path(ROUTES.storage, { project: server.project }))).body as StorageInfo;
const project = async (): Promise<ProjectInfo> =>
  (await request(server.app).get(path(ROUTES.project, { project: server.project }))).body as ProjectInfo;
const publish = (app = server.app) =>
  request(app)
    .post(path(ROUTES.runs, { project: server.project, package: 'permit' }))
    .send({});

async function published(): Promise<RunInfo> {
  const { body } = await publish().expect(201);
  const runOf = async (): Promise<RunInfo> =>
    (await request(server.app).get(path(ROUTES.run, { run: (body as RunInfo).id }))).body as RunInfo;
  return until(runOf, ({ state }) => /done|failed/.test(state));
}

it('what a project uses is that of its drawings and files, each once, without what was removed', async () => {
  const before = await storage();
  const drawings = (await project()).drawings.reduce((sum, { bytes }) => sum + bytes, 0);
  expect(before).toMatchObject({ usedBytes: drawings, maxBytes: null });
  const run = await published();
  const after = drawings + run.files.reduce((sum, { bytes }) => sum + bytes, 0);
  expect((await storage()).usedBytes).toBe(after);
  // The same files again take no more.
  await request(server.app)
    .post(path(ROUTES.runAgain, { run: run.id }))
    .expect(201);
  await until(project, ({ runs }) => runs.every(({ state }) => state === 'done'));
  expect((await storage()).usedBytes).toBe(after);
  for (const { id } of (await project()).runs)
    await request(server.app)
      .put(path(ROUTES.runRemoved, { run: id }))
      .send({ removed: true })
      .expect(200);
  expect((await storage()).usedBytes).toBe(drawings);
});

it('a project that has used nine tenths of what it may is warned', async () => {
  const { usedBytes } = await storage();
  const nearly = await storage(limited(usedBytes / 0.91));
  expect(nearly.maxBytes).toBe(usedBytes / 0.91);
  expect(nearly.warning).toMatch(/^This project has used .* GB of its .* GB; remove drawings and runs/);
  expect((await storage(limited(usedBytes / 0.89))).warning).toBe((await storage()).warning);
});

it('one that has used all of it takes in nothing more and publishes nothing, with a sentence', async () => {
  const app = limited((await storage()).usedBytes);
  const at = { project: server.project };
  const refusals = [
    await request(app).post(path(ROUTES.drawings, at)).attach('file', Buffer.from('0\nEOF\n'), 'new.dxf'),
    await request(app).post(path(ROUTES.typefaces, at)).attach('file', Buffer.from('font'), 'own.ttf'),
    await publish(app),
  ];
  for (const { status, body } of refusals) {
    expect([status, body.problem?.code]).toEqual([507, 'project.full']);
    expect(body.problem.sentence).toMatch(/^This project has used all of its .* GB; remove drawings or runs/);
  }
  // What is there can still be changed and removed.
  const [sheet] = (await project()).sheets;
  await request(app)
    .patch(path(ROUTES.sheet, { ...at, sheet: sheet!.id }))
    .send({ title: 'Still edited' })
    .expect(200);
});
