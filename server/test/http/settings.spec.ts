import request from 'supertest';
import {
  path,
  ROUTES,
  type EditAnswer,
  type ProjectInfo,
  type RunInfo,
  type SheetFacts,
  type StoppedRun,
} from '@folvex/contract';
import { unpackPage, type Group, type Sheet, type TitleTemplate } from '@folvex/core';
import { composedSheet, until, useServer } from '../support/harness';

const server = useServer();

const project = async (id = server.project): Promise<ProjectInfo> =>
  (await request(server.app).get(path(ROUTES.project, { project: id }))).body as ProjectInfo;
const change = (body: object, id = server.project) =>
  request(server.app)
    .patch(path(ROUTES.settings, { project: id }))
    .send(body);
const step = (way: 'undo' | 'redo') => request(server.app).post(path(ROUTES[way], { project: server.project }));
const facts = async (sheet: string): Promise<SheetFacts> => (await composedSheet(server, sheet)).facts!;
const template: TitleTemplate = {
  id: 'office',
  name: 'Office',
  place: 'corner',
  width: 100,
  height: 30,
  cells: [{ left: 0, width: 100, bottom: 0, height: 30, text: 'Page [page] of [pages]', required: true }],
};

/** A packed page as it came over the wire. */
async function pageAt(route: string): Promise<ReturnType<typeof unpackPage>> {
  const answer = await request(server.app).get(route).responseType('blob');
  expect(answer.status).toBe(200);
  return unpackPage(new Uint8Array(answer.body as Buffer));
}

describe('settings of a project', () => {
  it('are changed, taken back and done again in one list with the sheets', async () => {
    const { groups, sheets } = await project();
    const renamed: Group[] = groups.map((group, i) => (i === 0 ? { ...group, name: 'All plans' } : group));
    const answer = await change({ groups: renamed, was: { groups } });
    expect((answer.body as EditAnswer).settings!.groups).toEqual(renamed);
    await request(server.app)
      .patch(path(ROUTES.sheet, { project: server.project, sheet: sheets[0]!.id }))
      .send({ title: 'Elsewhere' });
    await step('undo');
    const back = (await step('undo')).body as EditAnswer;
    expect([back.words, back.settings!.groups]).toEqual(['group All plans', groups]);
    expect((await project()).groups).toEqual(groups);
    expect(((await step('redo')).body as EditAnswer).settings!.groups).toEqual(renamed);
    await step('undo');
  });

  it('are refused where somebody else changed the same one meanwhile; others are free', async () => {
    const { project: now } = await project();
    expect((await change({ project: { client: 'Theirs' }, was: { project: { client: now.client } } })).status).toBe(
      200,
    );
    const second = await change({ project: { client: 'Ours' }, was: { project: { client: now.client } } });
    expect([second.status, second.body.problem.code]).toEqual([409, 'settings.changed']);
    expect((await project()).project.client).toBe('Theirs');
    const other = await change({
      project: { papers: [{ name: 'Long', short: 297, long: 900 }] },
      was: { project: { papers: null } },
    });
    expect(other.status).toBe(200);
    await step('undo');
    await step('undo');
    expect((await project()).project).toEqual(now);
  });

  it.each([
    ['a field that no rule could name', { project: { sheetFields: [{ name: 'a b', caption: 'x', kind: 'text' }] } }],
    ['a margin of a metre', { project: { plotters: [{ id: 'p', name: 'P', margins: [1000, 0, 0, 0] }] } }],
    ['a rule that cannot be read', { project: { titleBlocks: [{ ...template, cells: [{ text: '[sheet.' }] }] } }],
    ['a key nobody knows', { project: { colour: 'red' } }],
  ])('are refused for %s, with a sentence, and stay', async (_, body) => {
    const before = await project();
    const answer = await change(body);
    expect([answer.status, answer.body.problem.code]).toEqual([400, 'request.value']);
    expect((await project()).project).toEqual(before.project);
  });

  it('have the sheets that they change made anew', async () => {
    const { sheets } = await project();
    const sheet = sheets.find(({ number }) => number === 'A-101')!;
    await change({ project: { titleBlocks: [template] } });
    await request(server.app)
      .patch(path(ROUTES.sheet, { project: server.project, sheet: sheet.id }))
      .send({ titleBlock: { template: 'office', fields: {} } });
    const texts = async (): Promise<string[]> =>
      (await pageAt(path(ROUTES.sheetPage, { project: server.project, sheet: sheet.id }))).texts.map(
        ({ text }) => text,
      );
    expect(await texts()).toContain('Page 2 of 9');
    // The block alone, as it is shown while it is edited: its own size, its own texts.
    const route = path(ROUTES.templatePage, { project: server.project, template: 'office', sheet: sheet.id });
    const block = await pageAt(route);
    expect([block.widthMm, block.heightMm]).toEqual([100, 30]);
    expect(block.texts.map(({ text }) => text)).toEqual(['Page 2 of 9']);
    await change({
      project: { titleBlocks: [{ ...template, cells: [{ ...template.cells[0]!, text: 'Sheet [page]' }] }] },
    });
    expect(await texts()).toContain('Sheet 2');
    await change({ project: { plotter: 'roll' } });
    expect((await facts(sheet.id)).printable).toEqual({ xmin: 5, ymin: 5, xmax: 589, ymax: 415 });
    for (let i = 0; i < 4; i++) await step('undo');
    expect((await project()).project.titleBlocks).toBeUndefined();
  });

  it('give a new sheet what its group says', async () => {
    const { groups, drawings } = await project();
    const [first, ...rest] = groups;
    await change({ groups: [{ ...first, sheets: { frame: 'plain', marks: ['folding'], template: 'side' } }, ...rest] });
    const wanted = { drawing: drawings[0]!.id, number: 'S-1', title: '', group: first!.id, scale: 'fit' };
    const made = (
      await request(server.app)
        .post(path(ROUTES.sheets, { project: server.project }))
        .send({ ...wanted, paper: { name: 'A1', orientation: 'landscape' } })
    ).body.sheets[0] as Sheet;
    expect(made).toMatchObject({ frame: 'plain', marks: ['folding'], titleBlock: { template: 'side' } });
    await step('undo');
    await step('undo');
  });
});

describe('a project that is begun', () => {
  it('is listed with the others, empty, and refuses to have no name', async () => {
    const begun = await request(server.app).post(ROUTES.projects).send({ number: '2701', name: 'Second phase' });
    expect(begun.status).toBe(201);
    const { id } = begun.body as { id: string };
    expect(await project(id)).toMatchObject({
      project: { number: '2701', name: 'Second phase' },
      sheets: [],
      groups: [],
    });
    const none = await request(server.app).post(ROUTES.projects).send({ number: '1', name: ' ' });
    expect(none.status).toBe(400);
  });
});

describe('one change of several sheets', () => {
  const several = (ids: string[], set: object) =>
    request(server.app)
      .post(path(ROUTES.sheetsChanged, { project: server.project }))
      .send({ ids, set });

  it('shows and hides layers in their views of a drawing, and leaves other layers and drawings alone', async () => {
    const { sheets } = await project();
    const [plan, setting] = ['A-101', 'A-111'].map((number) => sheets.find((sheet) => sheet.number === number)!);
    const { drawing } = plan!.views[0]!;
    const layers = { drawing, on: ['a-furn'], off: ['A-GRID'] };
    const changed = ((await several([plan!.id, setting!.id], { layers })).body as EditAnswer).sheets;
    expect(changed.map(({ views }) => views[0]!.layersOff)).toEqual([
      ['A-GRID'],
      [...setting!.views[0]!.layersOff.filter((name) => name !== 'A-FURN'), 'A-GRID'],
    ]);
    const other = ((await several([plan!.id], { layers: { ...layers, drawing: 'another' } })).body as EditAnswer)
      .sheets;
    expect(other.flatMap(({ views }) => views[0]!.layersOff)).not.toContain('A-FURN');
    await step('undo');
  });

  it('adds own fields to those that a sheet has, and marks or none', async () => {
    const [sheet] = (await project()).sheets;
    await several([sheet!.id], { fields: { phase: '1', zone: 'N' }, marks: ['grid'] });
    const [both] = ((await several([sheet!.id], { fields: { phase: '2' }, marks: null })).body as EditAnswer).sheets;
    expect(both).toMatchObject({ fields: { phase: '2', zone: 'N' } });
    expect(both).not.toHaveProperty('marks');
    await step('undo');
    await step('undo');
  });
});

describe('a package whose larger sheets are tiled', () => {
  it('writes a page a tile, counted in its file', async () => {
    server.work();
    const { sheets } = await project();
    const large = sheets.find(({ number }) => number === 'A-101')!;
    const small = sheets.find(({ number }) => number === 'A-001')!;
    const made = await request(server.app)
      .post(path(ROUTES.packages, { project: server.project }))
      .send({ name: 'Office prints' });
    const pack = (made.body as EditAnswer).pack!.id;
    const edited = path(ROUTES.package, { project: server.project, package: pack });
    const tiles = { paper: { name: 'A3', orientation: 'landscape' }, overlap: 15 };
    const kept = await request(server.app)
      .patch(edited)
      .send({ order: [large.id, small.id], tiles });
    expect(kept.body.pack).toMatchObject({ tiles });
    const begun = (
      await request(server.app)
        .post(path(ROUTES.runs, { project: server.project, package: pack }))
        .send({})
    ).body as RunInfo;
    const run = await until(
      async () => (await request(server.app).get(path(ROUTES.run, { run: begun.id }))).body as RunInfo,
      ({ state }) => state !== 'waiting' && state !== 'running',
    );
    // A2 on A3: 420 and 297 less 20 of margins leave 400 × 277; two across and two down. A3 stays whole.
    expect([run.state, run.files.map(({ pages }) => pages)]).toEqual(['done', [5]]);
    const none = await request(server.app).patch(edited).send({ tiles: null });
    expect(none.body.pack).not.toHaveProperty('tiles');
  });
});

describe('a run with pens and passwords', () => {
  const begin = async (pack: string, body: object) =>
    request(server.app)
      .post(path(ROUTES.runs, { project: server.project, package: pack }))
      .send(body);
  const done = (id: string): Promise<RunInfo> =>
    until(
      async () => (await request(server.app).get(path(ROUTES.run, { run: id }))).body as RunInfo,
      ({ state }) => state !== 'waiting' && state !== 'running',
    );
  const bytesOf = async (run: string): Promise<Buffer> =>
    (
      await request(server.app)
        .get(path(ROUTES.runFile, { run, index: 0 }))
        .responseType('blob')
    ).body as Buffer;
  const allow = { print: true, change: false, copy: false };

  it('prints with the schedule of its recipe, and makes only anew what that changes', async () => {
    const { recipes, sheets } = await project();
    const penSchedules = [{ id: 'heavy', name: 'Heavy', rules: [{ layer: 'A-WALL', weight: 2 }] }];
    await change({
      project: { penSchedules },
      recipes: [...recipes, { id: 'heavy', name: 'Heavy', colour: 'full', layers: 'shown', pens: 'heavy' }],
    });
    const made = await request(server.app)
      .post(path(ROUTES.packages, { project: server.project }))
      .send({ name: 'Heavy walls' });
    const pack = (made.body as EditAnswer).pack!.id;
    const edit = (body: object) =>
      request(server.app)
        .patch(path(ROUTES.package, { project: server.project, package: pack }))
        .send(body);
    await edit({ order: [sheets.find(({ number }) => number === 'A-101')!.id], recipe: 'heavy' });
    const first = await done(((await begin(pack, {})).body as RunInfo).id);
    await edit({ recipe: 'colour' });
    const second = await done(((await begin(pack, {})).body as RunInfo).id);
    expect([first.state, second.state]).toEqual(['done', 'done']);
    expect(first.files[0]!.sha256).not.toBe(second.files[0]!.sha256);
    expect(first.sheets[0]!.problem).toBeNull();
  });

  it('keeps no password, and refuses to protect what cannot be', async () => {
    const { packages, recipes, sheets } = await project();
    const pack = packages.find(({ name }) => name === 'Heavy walls')!;
    const protect = { open: 'grey-gull', change: '', allow };
    const begun = await begin(pack.id, { protect });
    const run = await done((begun.body as RunInfo).id);
    expect(run.state).toBe('done');
    expect((await bytesOf(run.id)).toString('latin1')).toContain('/Encrypt');
    const { rows } = await server.services.connection.pool.query(
      'select input::text as input from runs where id = $1',
      [run.id],
    );
    expect((rows[0] as { input: string }).input).not.toContain('grey-gull');
    // Nor one that a recipe of a job file brings along.
    await change({
      recipes: [
        ...recipes,
        { id: 'kept', name: 'Kept', colour: 'full', layers: 'none', protect: { open: 'grey-gull' } },
      ],
    });
    const kept = await server.services.connection.pool.query('select recipes::text as kept from projects');
    expect(JSON.stringify(kept.rows)).toContain('Kept');
    expect(
      JSON.stringify((await server.services.connection.pool.query('select settings::text from edits')).rows),
    ).not.toContain('grey-gull');
    expect(JSON.stringify(kept.rows)).not.toContain('grey-gull');
    await change({ recipes: [...recipes, { id: 'old', name: 'Old', colour: 'full', layers: 'none', version: '1.4' }] });
    await request(server.app)
      .patch(path(ROUTES.package, { project: server.project, package: pack.id }))
      .send({ recipe: 'old', order: [sheets[0]!.id] });
    const refused = await begin(pack.id, { protect });
    expect([refused.status, (refused.body as StoppedRun).findings[0]!.code]).toEqual([409, 'file.protected']);
  });
});

describe('the test sheet of a paper', () => {
  const get = (paper: string, id = server.project) =>
    request(server.app)
      .get(path(ROUTES.testSheet, { project: id, paper }))
      .responseType('blob');

  it('is a PDF, also for papers of the project; of others it is not there', async () => {
    await change({ project: { papers: [{ name: 'Roll "wide"', short: 600, long: 900 }] } });
    for (const paper of ['A3', 'Roll "wide"']) {
      const answer = await get(paper);
      expect([answer.status, answer.type]).toEqual([200, 'application/pdf']);
      expect((answer.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-');
    }
    expect([(await get('A33')).status, (await get('A3', 'none')).status]).toEqual([404, 404]);
    await step('undo');
  });
});
