import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import request from 'supertest';
import { PDFDocument } from '@cantoo/pdf-lib';
import {
  path,
  ROUTES,
  type DrawingInfo,
  type ProjectInfo,
  type Received,
  type RunInfo,
  type EditAnswer,
} from '@folvex/contract';
import { unpackPage, type DrawingChanges, type Sheet } from '@folvex/core';
import { composedSheet, until, useServer } from '../support/harness';

const server = useServer();

const line = (layer: string, x: number): string => `0\nLINE\n8\n${layer}\n10\n${x}\n20\n0\n11\n${x}\n21\n4000\n`;
const dxf = (...entities: string[]): string =>
  `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities.join('')}0\nENDSEC\n0\nEOF\n`;
const FIRST = dxf(line('WALL', 0), line('WALL', 3000), line('DOOR', 5000));
const SECOND = dxf(line('WALL', 0), line('WALL', 3500), line('GLASS', 7000));

const send = async (bytes: string | Buffer, name: string, newerOf?: string): Promise<Received> => {
  const { body } = await request(server.app)
    .post(path(ROUTES.drawings, { project: server.project }))
    .query(newerOf === undefined ? {} : { newerOf })
    .attach('file', Buffer.from(bytes as string), name);
  return body as Received;
};
const answer = async (body: object) =>
  request(server.app)
    .post(path(ROUTES.offers, { project: server.project }))
    .send(body);
const project = async (): Promise<ProjectInfo> =>
  (await request(server.app).get(path(ROUTES.project, { project: server.project }))).body as ProjectInfo;
const added = async (bytes: string, name: string): Promise<DrawingInfo> => {
  const received = await send(bytes, name);
  if (received.outcome !== 'added') throw new Error(received.outcome);
  return received.drawing;
};
const sheetOf = async (drawing: string, number: string): Promise<Sheet> => {
  const wanted = { drawing, number, title: '', group: '', paper: { size: [300, 200] }, scale: '1:50' };
  return (
    await request(server.app)
      .post(path(ROUTES.sheets, { project: server.project }))
      .send(wanted)
  ).body.sheets[0] as Sheet;
};
const layersOf = async (sheet: Sheet): Promise<string[]> => {
  const url = path(ROUTES.sheetPage, { project: server.project, sheet: sheet.id });
  const { body } = await request(server.app).get(url).responseType('blob');
  return unpackPage(new Uint8Array(body as Buffer)).layers.map(({ name }) => name);
};

describe('a file that comes in', () => {
  it('with the content of one that is here is known, whatever it is called', async () => {
    const drawing = await added(FIRST, 'known.dxf');
    expect(await send(FIRST, 'called-otherwise.dxf')).toMatchObject({ outcome: 'known', drawing: { id: drawing.id } });
  });

  it('with the name of one that is here is offered as its newer version, and changes nothing until it is taken', async () => {
    const drawing = await added(dxf(line('A', 1)), 'Plan.dxf');
    const received = await send(dxf(line('A', 2)), 'plan.DXF');
    expect(received).toMatchObject({ outcome: 'newer', drawing: { id: drawing.id, version: 1, hash: drawing.hash } });
    if (received.outcome !== 'newer') throw new Error();
    const apart = await answer({ offered: received.offered, as: 'drawing' });
    expect(apart.body).toMatchObject({ outcome: 'added', drawing: { name: 'plan.DXF', version: 1 } });
    expect(apart.body.drawing.id).not.toBe(drawing.id);
  });

  it('side by side with its copy is added once, and two of one name are not both added', async () => {
    const both = await Promise.all([send(dxf(line('E', 1)), 'e1.dxf'), send(dxf(line('E', 1)), 'e2.dxf')]);
    expect(both.map(({ outcome }) => outcome).sort()).toEqual(['added', 'known']);
    const named = await Promise.all([send(dxf(line('E', 2)), 'e.dxf'), send(dxf(line('E', 3)), 'E.dxf')]);
    expect(named.map(({ outcome }) => outcome).sort()).toEqual(['added', 'newer']);
  });

  it('can be meant for a drawing of another name', async () => {
    const drawing = await added(dxf(line('B', 1)), 'meant.dxf');
    const received = await send(dxf(line('B', 2)), 'from-the-engineer.dxf', drawing.id);
    expect(received).toMatchObject({ outcome: 'newer', drawing: { id: drawing.id } });
  });

  it('that the server does not hold cannot be taken', async () => {
    const offered = { name: 'x.dxf', hash: 'ab'.repeat(32), bytes: 1 };
    const { status, body } = await answer({ offered, as: 'drawing' });
    expect([status, body.problem.code]).toEqual([422, 'upload.gone']);
    const odd = await answer({ offered: { ...offered, hash: '../../etc/passwd' }, as: 'drawing' });
    expect(odd.status).toBe(400);
  });

  it('and is protected asks for its password, which is not kept', async () => {
    const document = await PDFDocument.create();
    document.addPage([842, 595]).drawText('Mooring plan', { x: 100, y: 100 });
    const [plain, locked] = [join(server.data, 'plain.pdf'), join(server.data, 'locked.pdf')];
    writeFileSync(plain, await document.save());
    execFileSync('qpdf', ['--encrypt', 'kelp', 'owner', '256', '--', plain, locked]);
    const received = await send(readFileSync(locked), 'locked.pdf');
    if (received.outcome !== 'locked') throw new Error(received.outcome);
    const { offered } = received;
    const wrong = await answer({ offered, as: 'unlock', password: 'weed' });
    expect(wrong.body).toMatchObject({ outcome: 'locked', problem: { code: 'pdf.password' } });
    expect(wrong.body.problem.sentence).toContain('does not open');
    const right = await answer({ offered, as: 'unlock', password: 'kelp' });
    expect(right.body).toMatchObject({ outcome: 'added', drawing: { name: 'locked.pdf', format: 'PDF 1.7' } });
    const url = path(ROUTES.picture, { content: right.body.drawing.hash as string, index: 0 });
    const picture = await request(server.app).get(url).responseType('blob');
    expect([picture.headers['content-type'], (picture.body as Buffer).subarray(0, 5).toString()]).toEqual([
      'application/pdf',
      '%PDF-',
    ]);
  });
});

describe('a newer version', () => {
  it('is followed by live views; held ones keep theirs, are out of date, and can follow again', async () => {
    const drawing = await added(dxf(line('WALL', 11), line('DOOR', 12)), 'hall.dxf');
    const [live, held] = [await sheetOf(drawing.id, 'V-1'), await sheetOf(drawing.id, 'V-2')];
    const url = path(ROUTES.sheet, { project: server.project, sheet: held.id });
    const holding = await request(server.app)
      .patch(url)
      .send({ hold: { drawing: drawing.id, held: true } });
    expect((holding.body as EditAnswer).sheets[0]!.views[0]!.held).toBe(1);
    const received = await send(dxf(line('WALL', 11), line('GLASS', 13)), 'hall.dxf');
    if (received.outcome !== 'newer') throw new Error(received.outcome);
    const taken = await answer({ offered: received.offered, as: 'version', drawing: drawing.id });
    expect(taken.body.drawing).toMatchObject({
      id: drawing.id,
      version: 2,
      earlier: [{ version: 1, hash: drawing.hash }],
    });
    expect(await layersOf(live)).toEqual(expect.arrayContaining(['WALL', 'GLASS']));
    expect(await layersOf(held)).toEqual(expect.arrayContaining(['WALL', 'DOOR']));
    expect(await layersOf(held)).not.toContain('GLASS');
    const following = await request(server.app)
      .patch(url)
      .send({ hold: { drawing: drawing.id, held: false } });
    expect((following.body as EditAnswer).sheets[0]!.views[0]).not.toHaveProperty('held');
    expect(await layersOf(held)).toContain('GLASS');
  });

  it('sent twice is taken once', async () => {
    const drawing = await added(dxf(line('C', 1)), 'twice.dxf');
    const received = await send(dxf(line('C', 2)), 'twice.dxf');
    if (received.outcome !== 'newer') throw new Error(received.outcome);
    const taking = { offered: received.offered, as: 'version', drawing: drawing.id };
    await Promise.all([answer(taking), answer(taking)]);
    const now = (await project()).drawings.find(({ id }) => id === drawing.id)!;
    expect([now.version, now.earlier.length]).toEqual([2, 1]);
  });

  it('is told with what it changes, layer by layer, and a picture of both', async () => {
    const drawing = await added(dxf(line('WALL', 0), line('WALL', 3000), line('DOOR', 5001)), 'changes.dxf');
    const received = await send(SECOND, 'changes.dxf');
    if (received.outcome !== 'newer') throw new Error(received.outcome);
    const at = { drawing: drawing.id, from: drawing.hash, to: received.offered.hash };
    const { body } = await request(server.app).get(path(ROUTES.changes, at));
    expect(body as DrawingChanges).toMatchObject({
      added: 2,
      removed: 2,
      kept: 1,
      layers: [
        { name: 'DOOR', state: 'removed', added: 0, removed: 1, looks: false },
        { name: 'GLASS', state: 'added', added: 1, removed: 0, looks: false },
        { name: 'WALL', state: 'changed', added: 1, removed: 1, looks: false },
      ],
      extentsBefore: [0, 0, 5001, 4000],
      extentsAfter: [0, 0, 7000, 4000],
    });
    const picture = await request(server.app).get(path(ROUTES.changesPicture, at)).responseType('blob');
    const page = unpackPage(new Uint8Array(picture.body as Buffer));
    expect(page.markCount).toBe(5);
    const looks = [...page.pen].map((pen) => page.pens[pen]!);
    expect(new Set(looks.map(({ colour }) => colour)).size).toBe(3);
    expect(looks.filter(({ dashes }) => dashes.length > 0)).toHaveLength(2);
  });

  it('does not change what a run published before it showed', async () => {
    server.work();
    const drawing = await added(dxf(line('D', 1), line('D', 900)), 'run.dxf');
    const sheet = await sheetOf(drawing.id, 'V-9');
    const packs = path(ROUTES.packages, { project: server.project });
    const { id } = ((await request(server.app).post(packs).send({ name: 'Versions' })).body as EditAnswer).pack!;
    const at = { project: server.project, package: id };
    await request(server.app)
      .patch(path(ROUTES.package, at))
      .send({ order: [sheet.id], names: { file: 'x', folder: '', bundle: 'v' } });
    const publish = async (): Promise<RunInfo> => {
      const { body } = await request(server.app).post(path(ROUTES.runs, at)).send({});
      const ask = async () =>
        (await request(server.app).get(path(ROUTES.run, { run: body.id as string }))).body as RunInfo;
      return until(ask, ({ state }) => state === 'done' || state === 'failed');
    };
    const first = await publish();
    expect((await publish()).files[0]!.sha256).toBe(first.files[0]!.sha256);
    const received = await send(dxf(line('D', 1), line('D', 1900)), 'run.dxf');
    if (received.outcome !== 'newer') throw new Error(received.outcome);
    await answer({ offered: received.offered, as: 'version', drawing: drawing.id });
    const after = await publish();
    expect(after.state).toBe('done');
    expect(after.files[0]!.sha256).not.toBe(first.files[0]!.sha256);
  });
});

describe('sheets that were just made', () => {
  it('are taken back in one step, but none of them while one stands in a package', async () => {
    const drawing = await added(dxf(line('F', 1), line('F', 9)), 'back.dxf');
    const made = [await sheetOf(drawing.id, 'B-1'), await sheetOf(drawing.id, 'B-2')];
    const ids = made.map(({ id }) => id);
    const packs = path(ROUTES.packages, { project: server.project });
    const { id } = ((await request(server.app).post(packs).send({ name: 'Holding' })).body as EditAnswer).pack!;
    const pack = path(ROUTES.package, { project: server.project, package: id });
    await request(server.app)
      .patch(pack)
      .send({ order: [ids[1]] });
    const remove = () =>
      request(server.app)
        .post(path(ROUTES.sheetsRemoved, { project: server.project }))
        .send({ ids });
    const refused = await remove();
    expect([refused.status, refused.body.problem.sentence]).toEqual([
      409,
      'Sheet B-2 is in the package Holding; remove it there first.',
    ]);
    expect((await project()).sheets.filter((sheet) => ids.includes(sheet.id))).toHaveLength(2);
    await request(server.app).patch(pack).send({ order: [] });
    expect((await remove()).status).toBe(200);
    expect((await project()).sheets.filter((sheet) => ids.includes(sheet.id))).toEqual([]);
  });
});

describe('what a sheet could not show', () => {
  it('is told with its sheet: of its drawings, and of the composing', async () => {
    const odd = '0\nINSERT\n8\n0\n2\nGONE\n10\n0\n20\n0\n0\n3DSOLID\n5\nAB\n8\n0\n';
    const drawing = await added(dxf(line('G', 1), line('G', 9), odd), 'odd.dxf');
    const sheet = await sheetOf(drawing.id, 'O-1');
    for (const time of ['made', 'from the store']) {
      const codes = (await composedSheet(server, sheet.id)).facts!.warnings.map(({ code }) => code);
      expect([time, codes]).toEqual([time, ['dxf.not-shown', 'sheet.missing-block']]);
    }
  });
});

describe('a sheet that a newer version made impossible', () => {
  it('is fixed by a change of several sheets at once', async () => {
    const long = (mm: number): string => dxf(`0\nLINE\n8\n0\n10\n0\n20\n0\n11\n${mm}\n21\n0\n`);
    const drawing = await added(long(10_000), 'grows.dxf');
    const made = await sheetOf(drawing.id, 'G-1');
    const at = path(ROUTES.sheet, { project: server.project, sheet: made.id });
    await request(server.app)
      .patch(at)
      .send({ views: made.views.map((view) => ({ ...view, scale: 'fit' })) });
    const newer = await send(long(1e9), 'grows.dxf');
    if (newer.outcome !== 'newer') throw new Error(newer.outcome);
    await answer({ offered: newer.offered, as: 'version', drawing: drawing.id });
    // No standard scale fits a thousand kilometres on the paper.
    expect((await composedSheet(server, made.id)).problem!.code).toBe('sheet.fit');
    await request(server.app)
      .post(path(ROUTES.sheetsChanged, { project: server.project }))
      .send({ ids: [made.id], set: { scale: '1:100000' } });
    const { facts } = await composedSheet(server, made.id);
    expect(facts!.views[0]!.scale).toBeCloseTo(1e-5, 10);
  });
});
