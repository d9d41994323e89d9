import request from 'supertest';
import {
  path,
  ROUTES,
  type DrawingInfo,
  type EditAnswer,
  type ProjectInfo,
  type ProjectSummary,
  type RunInfo,
} from '@folvex/contract';
import { composedSheet, until, useServer } from '../support/harness';

const server = useServer();

const project = async (id = server.project): Promise<ProjectInfo> =>
  (await request(server.app).get(path(ROUTES.project, { project: id }))).body as ProjectInfo;
const remove = (route: string, removed = true) => request(server.app).put(route).send({ removed });
const begin = (body: object) => request(server.app).post(ROUTES.projects).send(body);
const listed = async (): Promise<ProjectSummary[]> =>
  (await request(server.app).get(ROUTES.projects)).body as ProjectSummary[];

const line = (x: number): string => `0\nLINE\n8\n0\n10\n0\n20\n0\n11\n${x}\n21\n5\n`;
const entities = (content: string): string => `0\nSECTION\n2\nENTITIES\n${content}0\nENDSEC\n0\nEOF\n`;
const add = async (content: string, name: string): Promise<{ outcome: string; drawing: DrawingInfo }> =>
  (
    await request(server.app)
      .post(path(ROUTES.drawings, { project: server.project }))
      .attach('file', Buffer.from(content), name)
  ).body as { outcome: string; drawing: DrawingInfo };

describe('projects', () => {
  it('are listed with what they hold, and what was published last', async () => {
    const [demo] = await listed();
    expect(demo).toMatchObject({
      number: '2617',
      name: 'Tern Quay Ferry Terminal',
      sheets: 10,
      drawings: 7,
      packages: 2,
    });
    expect(demo).toMatchObject({
      cover: { title: expect.stringContaining('A-001') as string },
      lastRun: null,
      removedAt: null,
    });
  });

  it('start with the settings of another one, but not with its sheets and its name', async () => {
    const model = await project();
    const { id } = (await begin({ number: '2701', name: 'Second phase', like: server.project })).body as ProjectSummary;
    const made = await project(id);
    expect(made.recipes).toEqual(model.recipes);
    expect(made.groups).toEqual(model.groups);
    expect([made.project.number, made.project.name, made.project.client]).toEqual(['2701', 'Second phase', '']);
    expect([made.sheets, made.drawings, made.packages]).toEqual([[], [], []]);
    expect((await begin({ number: '', name: 'X', like: 'nowhere' })).status).toBe(404);
  });

  it('are removed and restored with all they hold', async () => {
    const { id } = (await begin({ number: '1', name: 'Old' })).body as ProjectSummary;
    const route = path(ROUTES.projectRemoved, { project: id });
    const gone = (await remove(route)).body as ProjectSummary[];
    expect(gone.find((one) => one.id === id)!.removedAt).not.toBeNull();
    expect((await request(server.app).get(path(ROUTES.project, { project: id }))).status).toBe(404);
    await remove(route, false);
    expect((await project(id)).project.name).toBe('Old');
  });
});

describe('drawings', () => {
  it('stay while something shows them, which is named', async () => {
    const { drawings, sheets } = await project();
    const shown = sheets.find(({ number }) => number === 'A-101')!.views[0]!.drawing;
    const name = drawings.find(({ id }) => id === shown)!.name;
    const { status, body } = await remove(path(ROUTES.drawingRemoved, { drawing: shown }));
    expect([status, body.problem.code]).toEqual([409, 'drawing.used']);
    expect(body.problem.sentence).toMatch(new RegExp(`^${name} is used by .*A-101.*; remove it there first.$`));
  });

  it('are removed where nothing shows them; another one may take the name, and then they stay removed', async () => {
    const send = (x: number) => add(entities(line(x)), 'loose.dxf');
    const { drawing } = await send(10);
    const route = path(ROUTES.drawingRemoved, { drawing: drawing.id });
    expect(((await remove(route)).body as DrawingInfo).removedAt).not.toBeNull();
    expect(((await remove(route, false)).body as DrawingInfo).removedAt).toBeNull();
    await remove(route);
    // What was removed is no longer known by its name.
    expect((await send(20)).outcome).toBe('added');
    const refused = await remove(route, false);
    expect([refused.status, refused.body.problem.code]).toEqual([409, 'drawing.replaced']);
  });

  it('stay while another drawing refers to their file', async () => {
    const { drawing } = await add(entities(line(30)), 'grid.dxf');
    const block = '0\nBLOCK\n8\n0\n2\nGRID\n70\n4\n10\n0\n20\n0\n1\ngrid.dxf\n0\nENDBLK\n';
    const host = await add(
      `0\nSECTION\n2\nBLOCKS\n${block}0\nENDSEC\n${entities(`${line(31)}0\nINSERT\n8\n0\n2\nGRID\n10\n0\n20\n0\n`)}`,
      'host.dxf',
    );
    expect(host.drawing.references).toEqual(['grid.dxf']);
    const grid = path(ROUTES.drawingRemoved, { drawing: drawing.id });
    expect((await remove(grid)).body.problem.sentence).toBe('grid.dxf is used by host.dxf; remove it there first.');
    await remove(path(ROUTES.drawingRemoved, { drawing: host.drawing.id }));
    expect((await remove(grid)).status).toBe(200);
  });

  it('can still be seen on a sheet that undo brings back', async () => {
    const { drawing } = await add(entities(line(40)), 'annex.dxf');
    await request(server.app)
      .patch(path(ROUTES.drawing, { drawing: drawing.id }))
      .send({ unit: 'mm' });
    const wanted = { drawing: drawing.id, number: 'Z-1', title: 'Annex', group: '', scale: 'fit' };
    const made = await request(server.app)
      .post(path(ROUTES.sheets, { project: server.project }))
      .send({ ...wanted, paper: { name: 'A3', orientation: 'landscape' } });
    const { id } = (made.body as EditAnswer).sheets[0]!;
    await request(server.app)
      .post(path(ROUTES.sheetsRemoved, { project: server.project }))
      .send({ ids: [id] });
    expect((await remove(path(ROUTES.drawingRemoved, { drawing: drawing.id }))).status).toBe(200);
    await request(server.app).post(path(ROUTES.undo, { project: server.project }));
    expect((await composedSheet(server, id)).facts!.views).toHaveLength(1);
  });

  it('get another name, unless another drawing has it', async () => {
    const { drawings } = await project();
    const url = path(ROUTES.drawing, { drawing: drawings[0]!.id });
    expect((await request(server.app).patch(url).send({ name: 'other.dxf' })).body).toMatchObject({
      name: 'other.dxf',
    });
    expect((await request(server.app).patch(url).send({ name: '  ' })).status).toBe(400);
    const taken = await request(server.app).patch(url).send({ name: drawings[1]!.name.toUpperCase() });
    expect([taken.status, taken.body.problem.code]).toEqual([409, 'drawing.name']);
    await request(server.app).patch(url).send({ name: drawings[0]!.name });
  });
});

describe('packages and runs', () => {
  it('a package is removed in a step that can be undone', async () => {
    const pack = (await project()).packages[1]!;
    const url = path(ROUTES.package, { project: server.project, package: pack.id });
    const answer = (await request(server.app).delete(url)).body as EditAnswer;
    expect([answer.packGone, answer.history.undo]).toEqual([pack.id, `removal of ${pack.name}`]);
    await request(server.app).post(path(ROUTES.undo, { project: server.project }));
    expect((await project()).packages.map(({ id }) => id)).toContain(pack.id);
  });

  it('a run is called by its package until it is named, and again without a name', async () => {
    const url = path(ROUTES.runs, { project: server.project, package: 'permit' });
    const run = (await request(server.app).post(url).send({})).body as RunInfo;
    expect(run.name).toBeNull();
    const rename = (name: unknown, id = run.id) =>
      request(server.app)
        .patch(path(ROUTES.run, { run: id }))
        .send({ name });
    expect(((await rename('For the planner')).body as RunInfo).name).toBe('For the planner');
    expect((await project()).runs.find(({ id }) => id === run.id)!.name).toBe('For the planner');
    const blank = await rename(' ');
    expect([blank.status, blank.body.problem.sentence]).toEqual([400, expect.stringContaining('A run needs a name')]);
    expect(((await rename(null)).body as RunInfo).name).toBeNull();
    expect((await rename('x', 'nothing')).status).toBe(404);
  });

  it('a run stays while it goes on, and for ever once it is issued', async () => {
    const url = path(ROUTES.runs, { project: server.project, package: 'permit' });
    const run = (await request(server.app).post(url).send({})).body as RunInfo;
    const route = path(ROUTES.runRemoved, { run: run.id });
    expect((await remove(route)).body.problem.code).toBe('run.open');
    server.work();
    await until(
      async () => (await project()).runs.find(({ id }) => id === run.id)!,
      ({ state }) => state === 'done',
    );
    expect(((await remove(route)).body as RunInfo).removedAt).not.toBeNull();
    expect(((await remove(route, false)).body as RunInfo).removedAt).toBeNull();
    await request(server.app)
      .post(path(ROUTES.issues, { project: server.project }))
      .send({ run: run.id, date: '2026-11-29', purpose: 'Permit', recipients: ['Plan checker'] });
    const issued = await remove(route);
    expect([issued.status, issued.body.problem.code]).toEqual([409, 'run.issued']);
  });
});
