import request from 'supertest';
import { path, ROUTES, type EditAnswer, type ProjectInfo, type SheetFacts } from '@folvex/contract';
import type { Sheet, View } from '@folvex/core';
import { composedSheet, useServer } from '../support/harness';

const server = useServer();

const project = async (): Promise<ProjectInfo> =>
  (await request(server.app).get(path(ROUTES.project, { project: server.project }))).body as ProjectInfo;
const sheetNow = async (id: string): Promise<Sheet | undefined> =>
  (await project()).sheets.find((sheet) => sheet.id === id);
const change = (id: string, body: object) =>
  request(server.app)
    .patch(path(ROUTES.sheet, { project: server.project, sheet: id }))
    .send(body);
const step = (way: 'undo' | 'redo') => request(server.app).post(path(ROUTES[way], { project: server.project }));
const firstSheet = async (): Promise<Sheet> => (await project()).sheets[0]!;

describe('edits of sheets', () => {
  it('are taken back and done again one by one, in words', async () => {
    const { id, title, number, views } = await firstSheet();
    await change(id, { title: 'Plan of the quay' });
    const moved: View[] = views.map((view) => ({ ...view, at: [60, 70], scale: '1:200', rotation: 90 }));
    expect((await change(id, { views: moved })).body).toMatchObject({
      sheets: [{ views: [{ at: [60, 70], rotation: 90 }] }],
      // How it came out is told with it.
      facts: { [id]: { views: [{ id: views[0]!.id }] } },
      history: { undo: expect.stringContaining('views') as string },
    });
    expect((await project()).history).toEqual({ undo: `views of ${number}`, redo: null });

    const back = (await step('undo')).body as EditAnswer;
    expect(back).toMatchObject({
      words: `views of ${number}`,
      history: { undo: `title of ${number}`, redo: `views of ${number}` },
    });
    expect(back.sheets[0]!.views).toEqual(views);
    // The sheet was composed like this before, so its facts come with it.
    await composedSheet(server, id);
    await step('redo');
    expect(Object.keys(((await step('undo')).body as EditAnswer).facts)).toEqual([id]);
    await step('undo');
    expect(await sheetNow(id)).toMatchObject({ title, views });

    await step('redo');
    expect(await sheetNow(id)).toMatchObject({ title: 'Plan of the quay', views });
    // Something new ends what could be done again.
    await change(id, { title });
    expect((await project()).history.redo).toBeNull();
    const none = await step('redo');
    expect([none.status, none.body.problem.code]).toEqual([409, 'edit.none']);
  });

  it('that change nothing are none', async () => {
    const { history } = await project();
    const { id, title } = await firstSheet();
    expect((await change(id, { title })).status).toBe(200);
    const now = await request(server.app).get(path(ROUTES.history, { project: server.project }));
    expect(now.body).toEqual(history);
  });

  it('cover sheets that were made and removed', async () => {
    const { drawings, sheets } = await project();
    const wanted = { drawing: drawings[0]!.id, number: 'U-1', title: '', group: '', scale: 'fit' };
    const made = (
      await request(server.app)
        .post(path(ROUTES.sheets, { project: server.project }))
        .send({ ...wanted, paper: { name: 'A1', orientation: 'landscape' } })
    ).body.sheets[0] as Sheet;
    const back = (await step('undo')).body as EditAnswer;
    expect([back.words, back.removed]).toEqual(['sheet U-1', [made.id]]);
    expect((await project()).sheets).toHaveLength(sheets.length);
    await step('redo');
    expect(await sheetNow(made.id)).toEqual(made);
  });

  it('are refused where somebody else changed the same thing meanwhile, and nothing is lost', async () => {
    const { id, number, title } = await firstSheet();
    await change(id, { title: 'Theirs', was: { title } });
    const second = await change(id, { title: 'Ours', was: { title } });
    expect([second.status, second.body.problem.sentence]).toEqual([
      409,
      `Somebody else changed the title of ${number} in the meantime; it is shown as it is now.`,
    ]);
    expect((await sheetNow(id))!.title).toBe('Theirs');
    // Another field of the same sheet is free.
    expect((await change(id, { group: '', was: { group: (await sheetNow(id))!.group } })).status).toBe(200);
  });

  it('that would make a sheet nobody can make are refused with the reason', async () => {
    const { id, views } = await firstSheet();
    const before = await sheetNow(id);
    const typed = await change(id, { views: views.map((view) => ({ ...view, scale: 'half' })) });
    expect([typed.status, typed.body.problem.code]).toEqual([400, 'request.value']);
    const wrong = await change(id, { paper: { name: 'A9', orientation: 'portrait' } });
    expect([wrong.status, wrong.body.problem.code]).toEqual([422, 'sheet.paper']);
    const unknown = await change(id, { views: [{ ...views[0], colour: 'red' }] });
    expect(unknown.status).toBe(400);
    expect(await sheetNow(id)).toEqual(before);
  });

  it('may leave the paper and the title block to be worked out', async () => {
    const { id } = await firstSheet();
    const { body } = await change(id, { paper: null, titleBlock: null, frame: 'plain' });
    expect(body.sheets[0]).not.toHaveProperty('titleBlock');
    expect(body.sheets[0]).toMatchObject({ frame: 'plain' });
    const facts = (await composedSheet(server, id)).facts!;
    expect(facts.paper.width).toBeGreaterThan(0);
    expect(facts.views[0]!.box.xmax).toBeGreaterThan(facts.views[0]!.box.xmin);
  });
});

describe('several sheets at once', () => {
  const many = (ids: string[], set: object) =>
    request(server.app)
      .post(path(ROUTES.sheetsChanged, { project: server.project }))
      .send({ ids, set });
  const factsOf = async (id: string): Promise<SheetFacts> => (await composedSheet(server, id)).facts!;

  it('are set in one step, which one step takes back; middles of views stay where they are', async () => {
    const before = (await project()).sheets.filter(({ number }) => ['A-102', 'A-111'].includes(number));
    const ids = before.map(({ id }) => id);
    const middle = async (): Promise<number> => {
      const { xmin, xmax } = (await factsOf(ids[0]!)).views[0]!.box;
      return (xmin + xmax) / 2;
    };
    const was = await middle();
    const set = { scale: '1:200', paper: { name: 'A1', orientation: 'landscape' }, frame: 'plain' };
    const { body } = await many(ids, set);
    expect(
      (body as EditAnswer).sheets.map(({ paper, frame, views }) => ({ paper, frame, scale: views[0]!.scale })),
    ).toEqual(ids.map(() => set));
    expect(await middle()).toBeCloseTo(was, 2);
    const back = (await step('undo')).body as EditAnswer;
    expect(back.words).toBe('scale and paper and frame of 2 sheets');
    expect(await Promise.all(ids.map(sheetNow))).toEqual(before);
  });

  it('answers with how each came out', async () => {
    const ids = (await project()).sheets.filter(({ from }) => !from).map(({ id }) => id);
    const { body } = await many(ids, { frame: 'plain' });
    expect(Object.keys((body as EditAnswer).facts).sort()).toEqual(ids.sort());
    await step('undo');
  });

  it('move up to a revision and keep the one before; a locked view keeps its scale', async () => {
    const [one, other] = (await project()).sheets.filter(({ number }) => ['A-201', 'A-202'].includes(number));
    await change(one!.id, { views: one!.views.map((view) => ({ ...view, locked: true })) });
    const revision = { index: 'P09', date: '2026-11-25', text: 'Tender' };
    const { body } = await many([one!.id, other!.id], { revision, scale: '1:200', template: 'side' });
    const [first, second] = (body as EditAnswer).sheets as [Sheet, Sheet];
    expect(first.revisions).toEqual([...(one!.revisions ?? []), one!.revision]);
    expect(first.revision).toEqual(revision);
    expect([first, second].map(({ titleBlock }) => titleBlock)).toEqual(
      [one!, other!].map(({ titleBlock }) => ({ template: 'side', fields: titleBlock!.fields })),
    );
    expect(first.views.map(({ scale }) => scale)).toEqual(one!.views.map(({ scale }) => scale));
    expect(second.views.map(({ scale }) => scale)).toEqual(['1:200']);
    expect(((await step('undo')).body as EditAnswer).words).toBe('revision and scale and title block of 2 sheets');
    await step('undo');
    expect(await Promise.all([sheetNow(one!.id), sheetNow(other!.id)])).toEqual([one, other]);
  });

  it('are left as they are where one of them cannot be made so', async () => {
    const before = (await project()).sheets;
    const refused = await many(
      before.map(({ id }) => id),
      { paper: { name: 'A9', orientation: 'portrait' } },
    );
    expect([refused.status, refused.body.problem.code]).toEqual([422, 'sheet.paper']);
    expect((await project()).sheets).toEqual(before);
  });

  it('can be the same: a copy has the next free number and overlays it to 0.01 mm, with another layer state', async () => {
    const sheet = (await project()).sheets.find(({ number }) => number === 'A-101')!;
    const copy = (
      await request(server.app).post(path(ROUTES.sheetCopies, { project: server.project, sheet: sheet.id }))
    ).body.sheets[0] as Sheet;
    expect(copy).toEqual({ ...sheet, id: copy.id, number: 'A-103' });
    const views = copy.views.map((view) => ({ ...view, layersOff: ['A-FURN'] }));
    await change(copy.id, { views });
    const [one, other] = [await factsOf(sheet.id), await factsOf(copy.id)];
    expect(other.views.map(({ box, scale }) => ({ box, scale }))).toEqual(
      one.views.map(({ box, scale }) => ({ box, scale })),
    );
  });
});
