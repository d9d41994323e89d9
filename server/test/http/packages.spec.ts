import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import request from 'supertest';
import { path, ROUTES, type EditAnswer, type PackageChange, type ProjectInfo, type RunInfo } from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';
import { sha256 } from '@folvex/press';
import type { RunReport } from '../../src/work/runs/run-report';
import { delivered, outcomesOf } from '../support/delivered';
import { TODAY, until, useServer } from '../support/harness';

const server = useServer();

const change = (body: PackageChange, pack = 'permit') =>
  request(server.app)
    .patch(path(ROUTES.package, { project: server.project, package: pack }))
    .send(body);
const info = async (): Promise<ProjectInfo> =>
  (await request(server.app).get(path(ROUTES.project, { project: server.project }))).body as ProjectInfo;
const packNow = async (id = 'permit'): Promise<SheetPackage | undefined> =>
  (await info()).packages.find((pack) => pack.id === id);
const step = (way: 'undo' | 'redo') => request(server.app).post(path(ROUTES[way], { project: server.project }));

describe('an edit of a package', () => {
  it('is taken back and done again, in words', async () => {
    const before = (await packNow())!;
    const order = [...before.order].reverse();
    await change({ order, was: { order: before.order } }).expect(200);
    const undone = (await step('undo').expect(200)).body as EditAnswer;
    expect(undone).toMatchObject({ words: 'order of Permit set', sheets: [], pack: { order: before.order } });
    expect(await packNow()).toEqual(before);
    const redone = (await step('redo').expect(200)).body as EditAnswer;
    expect(redone.pack!.order).toEqual(order);
    expect((await packNow())!.order).toEqual(order);
    await step('undo').expect(200);
  });

  it('that comes letter by letter is one step; another field is another', async () => {
    const before = (await packNow())!;
    for (const notes of ['T', 'Te', 'Tell the lift maker']) await change({ notes }).expect(200);
    await change({ purpose: 'Permit' }).expect(200);
    expect(((await step('undo')).body as EditAnswer).words).toBe('purpose of Permit set');
    expect((await packNow())!.notes).toBe('Tell the lift maker');
    await step('undo').expect(200);
    expect(await packNow()).toEqual(before);
    await step('redo').expect(200);
    expect((await packNow())!.notes).toBe('Tell the lift maker');
    await step('undo').expect(200);
  });

  it('is refused where another screen changed the same field meanwhile; other fields are changed side by side', async () => {
    const before = (await packNow())!;
    await change({ purpose: 'Tender', was: { purpose: before.purpose ?? null } }).expect(200);
    await change({ notes: 'From another screen', was: { notes: before.notes ?? null } }).expect(200);
    expect(await packNow()).toMatchObject({ purpose: 'Tender', notes: 'From another screen' });
    const refused = await change({ purpose: 'Permit', was: { purpose: before.purpose ?? null } });
    expect(refused.status).toBe(409);
    expect(refused.body).toMatchObject({ problem: { code: 'package.changed' } });
    expect((await packNow())!.purpose).toBe('Tender');
    // Sent twice, the second time changes nothing and does not conflict.
    await change({ purpose: 'Tender', was: { purpose: before.purpose ?? null } }).expect(200);
    await step('undo').expect(200);
    await step('undo').expect(200);
  });

  it('made anew goes when that is taken back', async () => {
    const { body } = await request(server.app)
      .post(path(ROUTES.packages, { project: server.project }))
      .send({ name: 'Lift maker', like: 'permit' })
      .expect(201);
    const { id } = (body as EditAnswer).pack!;
    expect(await packNow(id)).toMatchObject({ name: 'Lift maker' });
    expect((await step('undo')).body).toMatchObject({ words: 'package Lift maker', packGone: id });
    expect(await packNow(id)).toBeUndefined();
    expect((await step('redo')).body).toMatchObject({ pack: { id } });
    expect(await packNow(id)).toMatchObject({ name: 'Lift maker' });
    await step('undo').expect(200);
  });
});

it('publishes a package otherwise this time only', async () => {
  server.work();
  const before = (await packNow())!;
  const { body } = await request(server.app)
    .post(path(ROUTES.runs, { project: server.project, package: 'permit' }))
    .send({ pack: { bundling: 'sheet', order: before.order.slice(0, 2) } })
    .expect(201);
  const run = await until(
    async () => (await request(server.app).get(path(ROUTES.run, { run: (body as RunInfo).id }))).body as RunInfo,
    ({ state }) => state === 'done',
  );
  expect(run.files).toHaveLength(2);
  expect(await packNow()).toEqual(before);
  await request(server.app)
    .post(path(ROUTES.runs, { project: server.project, package: 'permit' }))
    .send({ pack: { bundling: 'all of it' } })
    .expect(400);
});

it("publishes drawings' spaces as pages", async () => {
  const { drawings } = await info();
  const drawing = drawings.find(({ name }) => name === 'ground-floor.dxf')!.id;
  const before = (await packNow())!;
  const space = {
    id: 'model',
    kind: 'space' as const,
    number: 'S-1',
    title: 'Ground floor, model',
    drawing,
    space: 'model',
  };
  await change({ extras: [space], order: [before.order[0]!, 'model'] }).expect(200);
  // How it comes out is told to the checks, as of sheets.
  const facts = (page: string) =>
    request(server.app).get(path(ROUTES.addedPageFacts, { project: server.project, package: 'permit', page }));
  expect((await facts('model').expect(200)).body).toMatchObject({ paper: { width: 420, height: 297 } });
  await change({ pages: { ...before.pages, model: { skip: true } } }).expect(200);
  await facts('model').expect(200);
  await step('undo').expect(200);
  // A sheet of the package is not a page that it adds.
  await facts(before.order[0]!).expect(404);
  const { body, status } = await request(server.app).post(
    path(ROUTES.runs, { project: server.project, package: 'permit' }),
  );
  expect([status, body.findings]).toEqual([201, undefined]);
  const run = await until(
    async () => (await request(server.app).get(path(ROUTES.run, { run: (body as RunInfo).id }))).body as RunInfo,
    ({ state }) => state === 'done' || state === 'failed',
  );
  expect(run).toMatchObject({ state: 'done', problem: null });
  expect(run.files[0]).toMatchObject({ pages: 2 });
  const pdf = await request(server.app)
    .get(path(ROUTES.runFile, { run: run.id, index: 0 }))
    .responseType('blob');
  const file = join(server.data, 'space.pdf');
  writeFileSync(file, pdf.body as Buffer);
  const text = execFileSync('pdftotext', ['-f', '2', '-l', '2', file, '-'], { encoding: 'utf8' });
  expect(text).toContain('Ticket hall');
  await step('undo').expect(200);
});

describe('a destination', () => {
  const folder = (): string => join(server.data, 'delivered', '2617', 'Permit set');
  const publish = async (): Promise<RunInfo> => {
    const { body, status } = await request(server.app).post(
      path(ROUTES.runs, { project: server.project, package: 'permit' }),
    );
    expect([status, body.findings]).toEqual([201, undefined]);
    return delivered(server.app, (body as RunInfo).id);
  };
  const howOf = ({ deliveries }: RunInfo) => outcomesOf(deliveries[0]!).map((one) => 'how' in one && one.how);
  const name = `2617 Permit set ${TODAY}.pdf`;

  beforeAll(async () => {
    const onConflict = 'stop' as const;
    await change({
      destinations: [{ kind: 'folder', folder: '[project.number]/[package.name]', onConflict }],
    }).expect(200);
  });

  it('gets the files whole; the same again is left as it is', async () => {
    const run = await publish();
    expect(howOf(run)).toEqual(['new']);
    expect(sha256(readFileSync(join(folder(), name)))).toBe(run.files[0]!.sha256);
    expect(readdirSync(folder())).toEqual([name]);
    const report = await request(server.app).get(path(ROUTES.runReport, { run: run.id, format: 'json' }));
    expect((report.body as RunReport).deliveries).toMatchObject([
      { destination: folder(), state: 'done', path: name, outcome: `new: ${name}`, bytes: run.files[0]!.bytes },
    ]);
  });

  it('that has a file of the name already stops the run, or keeps both, or has it replaced', async () => {
    const { body: told } = await request(server.app)
      .post(path(ROUTES.atDestinations, { project: server.project }))
      .send({
        destinations: [{ kind: 'folder', folder: '2617/Permit set', onConflict: 'stop' }],
        paths: [name, 'other.pdf', '../Permit set/other.pdf'],
      });
    expect(told).toEqual([{ where: folder(), paths: [name] }]);
    const stopped = await request(server.app).post(path(ROUTES.runs, { project: server.project, package: 'permit' }));
    expect(stopped.status).toBe(409);
    expect(stopped.body.findings[0]).toMatchObject({ code: 'destination.there', severity: 'stop' });
    writeFileSync(join(folder(), name), 'somebody else wrote this');
    await change({
      destinations: [{ kind: 'folder', folder: '[project.number]/[package.name]', onConflict: 'both' }],
    }).expect(200);
    expect(howOf(await publish())).toEqual(['numbered']);
    expect(readdirSync(folder()).sort()).toEqual([`2617 Permit set ${TODAY} (2).pdf`, name].sort());
    expect(readFileSync(join(folder(), name), 'utf8')).toBe('somebody else wrote this');
    await change({
      destinations: [{ kind: 'folder', folder: '[project.number]/[package.name]', onConflict: 'replace' }],
    }).expect(200);
    const run = await publish();
    expect(howOf(run)).toEqual(['replaced']);
    expect(sha256(readFileSync(join(folder(), name)))).toBe(run.files[0]!.sha256);
  });

  it('that cannot be written to is told with the file, and the run is there all the same', async () => {
    rmSync(join(server.data, 'delivered'), { recursive: true });
    writeFileSync(join(server.data, 'delivered'), 'no folder');
    const run = await publish();
    expect(run.deliveries[0]!.state).toBe('failed');
    expect(outcomesOf(run.deliveries[0]!)).toMatchObject([
      { problem: { code: 'destination.copy', place: { file: name } } },
    ]);
    rmSync(join(server.data, 'delivered'));
    await change({ destinations: null }).expect(200);
  });
});
