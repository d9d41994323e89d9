import { execFileSync } from 'node:child_process';
import { once } from 'node:events';
import { readdirSync, readFileSync } from 'node:fs';
import { request as httpRequest } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import request from 'supertest';
import { path, ROUTES, type DrawingInfo, type ProjectInfo, type RunInfo, type EditAnswer } from '@folvex/contract';
import { unpackPage, type FrameFit } from '@folvex/core';
import { useServer } from '../support/harness';

const server = useServer();
const LINE = '0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nA\n10\n0\n20\n0\n11\n9000\n21\n4000\n0\nENDSEC\n0\nEOF\n';

const project = async (): Promise<ProjectInfo> => {
  const { body } = await request(server.app).get(path(ROUTES.project, { project: server.project }));
  return body as ProjectInfo;
};
const upload = (bytes: string | Buffer, name = 'wall.dxf') =>
  request(server.app)
    .post(path(ROUTES.drawings, { project: server.project }))
    .attach('file', Buffer.from(bytes as string), name);

describe('a project', () => {
  it('is listed and told with everything in it', async () => {
    const { body } = await request(server.app).get(ROUTES.projects);
    expect(body).toMatchObject([{ id: server.project, number: '2617', name: 'Tern Quay Ferry Terminal' }]);
    const info = await project();
    expect([info.drawings.length, info.sheets.length, info.packages.length]).toEqual([7, 10, 2]);
    expect(info.drawings.every(({ hasMiniature }) => hasMiniature)).toBe(true);
    // The site plan refers to the survey, which is here.
    expect(info.drawings.flatMap(({ warnings }) => warnings.map(({ refersTo }) => refersTo))).toEqual(['survey.dxf']);
    expect(info.drawings.find(({ name }) => name === 'site.dxf')).toMatchObject({ ownUnit: 'm', unit: null });
  });

  it('that is not there is refused in one sentence', async () => {
    const { status, body } = await request(server.app).get(path(ROUTES.project, { project: 'none' }));
    expect([status, body.problem.code]).toEqual([404, 'not-found']);
    expect((await request(server.app).get('/api/nothing')).status).toBe(404);
  });
});

describe('a drawing', () => {
  it('comes in, is told, and takes the unit that is stated for it', async () => {
    const { status, body } = await upload(LINE);
    expect([status, body.outcome]).toEqual([201, 'added']);
    expect(body.drawing).toMatchObject({
      name: 'wall.dxf',
      ownUnit: null,
      unit: null,
      entities: 1,
      extents: [0, 0, 9000, 4000],
    });
    const { id } = body.drawing as DrawingInfo;
    const stated = await request(server.app)
      .patch(path(ROUTES.drawing, { drawing: id }))
      .send({ unit: 'mm' });
    expect(stated.body).toMatchObject({ id, unit: 'mm' });
    const wrong = await request(server.app)
      .patch(path(ROUTES.drawing, { drawing: id }))
      .send({ unit: 'cubit' });
    expect([wrong.status, wrong.body.problem.place]).toEqual([400, { path: 'unit' }]);
    const miniature = await request(server.app)
      .get(path(ROUTES.miniature, { drawing: id }))
      .responseType('blob');
    expect(unpackPage(new Uint8Array(miniature.body as Buffer)).markCount).toBe(1);
  });

  it.each([
    ['empty', '', 'is empty'],
    ['a PNG of nothing', Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]), 'cannot be read as a PNG picture'],
    ['prose', 'Dear reader', 'is not a DXF drawing'],
  ])('that is %s is refused with a sentence and leaves nothing', async (_, bytes, part) => {
    const before = (await project()).drawings.length;
    const { status, body } = await upload(bytes);
    expect(status).toBe(422);
    expect(body.problem.sentence).toContain(part);
    expect((await project()).drawings).toHaveLength(before);
  });

  it('that breaks off comes in with a warning', async () => {
    const { status, body } = await upload(LINE.slice(0, -20), 'cut.dxf');
    expect(status).toBe(201);
    expect((body.drawing as DrawingInfo).warnings.map(({ code }) => code)).toEqual(['dxf.truncated']);
  });

  it('keeps quotes in its name, which forms escape', async () => {
    const { body } = await upload(`999\nquoted\n${LINE}`, 'door 36%22 wide.dxf');
    expect(body.drawing.name).toBe('door 36" wide.dxf');
  });

  it('keeps only the last part of its name', async () => {
    const { body } = await upload(`999\nits own\n${LINE}`, '../../etc/<b>pass.dxf');
    expect((body.drawing as DrawingInfo).name).toBe('bpass.dxf');
  });

  it('without a file is refused', async () => {
    const { status, body } = await request(server.app)
      .post(path(ROUTES.drawings, { project: server.project }))
      .field('a', 'b');
    expect([status, body.problem.code]).toEqual([400, 'upload.none']);
    const noForm = await request(server.app)
      .post(path(ROUTES.drawings, { project: server.project }))
      .send({});
    expect([noForm.status, noForm.body.problem.code]).toEqual([400, 'upload.form']);
  });

  it('of 300 MB is refused while it is sent, and nothing of it stays', async () => {
    const listening = server.app.listen(0, '127.0.0.1');
    await once(listening, 'listening');
    try {
      const { port } = listening.address() as AddressInfo;
      const answer = await sendMegabytes(port, path(ROUTES.drawings, { project: server.project }), 300);
      expect(answer.status).toBe(413);
      expect(answer.body).toContain('huge.dxf is larger than 250 MB');
      expect(readdirSync(join(server.data, 'store', 'new'))).toEqual([]);
      expect((await request(server.app).get(ROUTES.health)).body).toMatchObject({ ok: true });
    } finally {
      listening.closeAllConnections();
      listening.close();
    }
  });
});

describe('a sheet', () => {
  const sheets = () => request(server.app).post(path(ROUTES.sheets, { project: server.project }));
  const wanted = async (change: object = {}) => {
    const { drawings } = await project();
    const drawing = drawings.find(({ name }) => name === 'details.dxf')!.id;
    return {
      drawing,
      number: 'A-900',
      title: 'New',
      group: 'details',
      paper: { name: 'A2', orientation: 'portrait' },
      scale: '1:50',
      ...change,
    };
  };

  it('is made from a drawing and shows as a page', async () => {
    const { status, body } = await sheets().send(await wanted());
    expect(status).toBe(201);
    const url = path(ROUTES.sheetPage, { project: server.project, sheet: (body as EditAnswer).sheets[0]!.id });
    const first = await request(server.app).get(url).responseType('blob');
    const page = unpackPage(new Uint8Array(first.body as Buffer));
    expect([page.widthMm, page.heightMm]).toEqual([420, 594]);
    expect(page.texts.map(({ text }) => text)).toEqual(expect.arrayContaining(['A-900', 'New', '1:50']));
    const again = await request(server.app)
      .get(url)
      .set('If-None-Match', first.headers['etag'] as string);
    expect(again.status).toBe(304);
  });

  it.each([
    ['a scale that is none', { scale: 'about' }, 400, 'Write a scale such as 1:50, or fit.'],
    ['a scale at which nothing is seen', { scale: '1:99999999' }, 400, 'Scales go from 1:1,000,000 to 1000:1.'],
    ['a paper that is none', { paper: { name: 'A9', orientation: 'portrait' } }, 422, 'no paper called "A9"'],
    ['no number', { number: ' ' }, 400, 'number'],
    ['a key too many', { colour: 1 }, 400, 'colour'],
    ['a drawing that is gone', { drawing: 'gone' }, 422, 'does not exist'],
  ])('with %s is refused and not kept', async (_, change, status, part) => {
    const before = (await project()).sheets.length;
    const answer = await sheets().send(await wanted(change));
    expect(answer.status).toBe(status);
    expect(answer.body.problem.sentence).toContain(part);
    expect((await project()).sheets).toHaveLength(before);
  });

  it('takes a new number and title', async () => {
    const url = path(ROUTES.sheet, { project: server.project, sheet: 'a202' });
    const { body } = await request(server.app).patch(url).send({ number: 'A-203', title: 'East' });
    expect(body.sheets).toMatchObject([{ id: 'a202', number: 'A-203', title: 'East', group: 'views' }]);
    expect((await request(server.app).patch(url).send({ number: '' })).status).toBe(400);
    expect(
      (
        await request(server.app)
          .patch(path(ROUTES.sheet, { project: server.project, sheet: 'zzz' }))
          .send({})
      ).status,
    ).toBe(404);
  });
});

describe('layouts of a drawing', () => {
  it('become sheets in one step, each once', async () => {
    const file = join(server.data, 'layouts.dxf');
    const script = fileURLToPath(new URL('../../../core/test/support/write_layouts.py', import.meta.url));
    execFileSync('/usr/bin/python3', [script, file]);
    const drawing = (await upload(readFileSync(file), 'layouts.dxf')).body.drawing as DrawingInfo;
    const url = path(ROUTES.layoutSheets, { project: server.project, drawing: drawing.id });
    const { status, body } = await request(server.app).post(url);
    expect(status).toBe(201);
    const made = (body as EditAnswer).sheets.map(({ number, title }) => [number, title]);
    expect(made).toEqual(
      expect.arrayContaining([
        ['A-101', 'Ground floor'],
        ['A-102', ''],
        ['Detail', ''],
      ]),
    );
    expect((await request(server.app).post(url)).body.sheets).toEqual([]);
    const sheet = (body as EditAnswer).sheets.find(({ number }) => number === 'Detail')!;
    const answer = await request(server.app)
      .get(path(ROUTES.sheetPage, { project: server.project, sheet: sheet.id }))
      .responseType('blob');
    expect(unpackPage(new Uint8Array(answer.body as Buffer)).widthMm).toBeCloseTo(863.6, 6);
    const none = path(ROUTES.layoutSheets, { project: server.project, drawing: 'none' });
    expect((await request(server.app).post(none)).status).toBe(404);
  });

  it('have number, title and revision from their title blocks, and from their names where those say nothing', async () => {
    const file = join(server.data, 'titled.dxf');
    const script = fileURLToPath(new URL('../../../core/test/support/write_title_blocks.py', import.meta.url));
    execFileSync('/usr/bin/python3', [script, file]);
    const drawing = (await upload(readFileSync(file), 'titled.dxf')).body.drawing as DrawingInfo;
    expect(drawing.layouts.find(({ name }) => name === 'Plan, ground floor')!.fields).toMatchObject({
      number: 'A-101',
    });
    const url = path(ROUTES.layoutSheets, { project: server.project, drawing: drawing.id });
    const made = ((await request(server.app).post(url)).body as EditAnswer).sheets;
    expect(made.map(({ number, title, revision }) => [number, title, revision?.index, revision?.date])).toEqual(
      expect.arrayContaining([
        ['A-101', 'Ground floor east part', 'P02', '2026-11-12'],
        ['A-102', 'Upper floor, revised', 'C', expect.stringMatching(/^\d{4}-\d\d-\d\d$/)],
        ['A-103', 'Roof', undefined, undefined],
      ]),
    );
  });
});

describe('a run that no worker has taken yet', () => {
  it('is cancelled for good, and tells so to whoever listens', async () => {
    const { status, body } = await request(server.app).post(
      path(ROUTES.runs, { project: server.project, package: 'tender' }),
    );
    expect([status, body.state]).toEqual([201, 'waiting']);
    const run = (body as RunInfo).id;
    const cancelled = await request(server.app).post(path(ROUTES.runCancel, { run }));
    expect(cancelled.body).toMatchObject({ state: 'cancelled', files: [] });
    const { text } = await request(server.app).get(path(ROUTES.runEvents, { run }));
    expect(JSON.parse(text.trim().replace(/^data: /, ''))).toMatchObject({ id: run, state: 'cancelled' });
    expect((await request(server.app).get(path(ROUTES.runZip, { run }))).status).toBe(404);
  });
});

describe('windows of a drawing', () => {
  it('are kept under their names, each of which is used once', async () => {
    const { id } = (await upload(`0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n`, 'windows.dxf')).body
      .drawing as DrawingInfo;
    const state = (windows: object[]) =>
      request(server.app)
        .patch(path(ROUTES.drawing, { drawing: id }))
        .send({ windows });
    const stair = { name: 'Stair B', window: [0, 0, 10, 20] };
    expect((await state([stair])).body).toMatchObject({ id, windows: [stair], unit: null });
    const twice = await state([stair, { ...stair, name: 'stair b' }]);
    expect([twice.status, twice.body.problem.sentence]).toEqual([
      400,
      expect.stringContaining('Two windows of a drawing have the same name'),
    ]);
    expect((await state([])).body.windows).toEqual([]);
  });
});

describe('frames of a drawing', () => {
  const box = (x: number, y: number): string =>
    `0\nLWPOLYLINE\n8\nF\n90\n4\n70\n1\n10\n${x}\n20\n${y}\n10\n${x + 420}\n20\n${y}\n10\n${x + 420}\n20\n${y + 297}\n10\n${x}\n20\n${y + 297}\n`;
  const text = `0\nSECTION\n2\nENTITIES\n${box(500, 0)}${box(0, 0)}${box(0, 400)}0\nENDSEC\n0\nEOF\n`;

  it('become sheets in reading order, once the unit is known and the numbers are free', async () => {
    const { id } = (await upload(text, 'frames.dxf')).body.drawing as DrawingInfo;
    const at = { project: server.project, drawing: id };
    const wanted = {
      ...{ layer: 'F', order: 'rows', first: 'F-1', group: 'details' },
      fit: { by: 'frame' },
      skipped: [],
    };
    const make = (body: object) => request(server.app).post(path(ROUTES.frameSheets, at)).send(body);
    expect((await make(wanted)).body.problem.code).toBe('drawing.unit');
    await request(server.app)
      .patch(path(ROUTES.drawing, { drawing: id }))
      .send({ unit: 'mm' });
    const found = await request(server.app).get(path(ROUTES.frames, { ...at, order: 'rows' }));
    expect(found.body).toEqual([
      { layer: 'F', frames: expect.arrayContaining([expect.objectContaining({ window: [0, 400, 420, 697] })]) },
    ]);
    const made = ((await make(wanted)).body as EditAnswer).sheets;
    expect(made.map(({ number, views }) => [number, views[0]!.window])).toEqual([
      ['F-1', [0, 400, 420, 697]],
      ['F-2', [0, 0, 420, 297]],
      ['F-3', [500, 0, 920, 297]],
    ]);
    expect(made[0]).toMatchObject({
      paper: { name: 'A3', orientation: 'landscape' },
      views: [{ scale: '1:1', at: 'centre' }],
    });
    // At another scale they get papers of their own size; one of them is left out.
    const half = await make({ ...wanted, first: 'H-1', fit: { by: 'scale', scale: '1:3' }, skipped: [1] });
    expect(
      (half.body as EditAnswer).sheets.map(({ number, paper, views }) => [number, paper, views[0]!.window]),
    ).toEqual([
      ['H-1', { size: [140, 99] }, [0, 400, 420, 697]],
      ['H-2', { size: [140, 99] }, [500, 0, 920, 297]],
    ]);
    expect((await make({ ...wanted, first: 'P-1', fit: { by: 'paper' } })).status).toBe(400);
    const read = await make({ ...wanted, order: 'text' });
    expect([read.status, read.body.problem.code]).toEqual([422, 'frames.numbers']);
    const again = await make({ ...wanted, first: 'F-3' });
    expect([again.status, again.body.problem.sentence]).toEqual([
      409,
      'Sheet F-3 already exists; start with a number that leaves room for 3.',
    ]);
  });
});

describe('frames with their numbers written in them', () => {
  const corner = (x: number, y: number): string => `10\n${x}\n20\n${y}\n`;
  const frame = (x: number, degrees: number, [width, height] = [420, 297]): string => {
    const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    const at = (u: number, v: number): string => corner(x + u * cos - v * sin, u * sin + v * cos);
    return `0\nLWPOLYLINE\n8\nF\n90\n4\n70\n1\n${at(0, 0)}${at(width, 0)}${at(width, height)}${at(0, height)}`;
  };
  const number = (x: number, y: number, words: string): string => `0\nTEXT\n8\nT\n${corner(x, y)}40\n7\n1\n${words}\n`;
  const framed = async (name: string, entities: string, fit: FrameFit): Promise<EditAnswer['sheets']> => {
    const unit = '0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n';
    const text = `${unit}0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
    const { id } = (await upload(text, name)).body.drawing as DrawingInfo;
    const { body } = await request(server.app)
      .post(path(ROUTES.frameSheets, { project: server.project, drawing: id }))
      .send({ layer: 'F', order: 'text', first: '', group: '', fit, skipped: [] });
    return (body as EditAnswer).sheets;
  };

  it('become sheets of those numbers, in their order; a turned one comes upright', async () => {
    const turned = (5 * Math.PI) / 180;
    const inside: [number, number] = [
      1000 + 380 * Math.cos(turned) - 10 * Math.sin(turned),
      380 * Math.sin(turned) + 10 * Math.cos(turned),
    ];
    const entities = frame(0, 0) + number(380, 10, 'N-02') + frame(1000, 5) + number(...inside, 'N-01');
    const made = await framed('numbered.dxf', entities, { by: 'frame' });
    expect(made.map((sheet) => sheet.number)).toEqual(['N-01', 'N-02']);
    expect(made[0]!.views[0]!.rotation).toBeCloseTo(-5, 6);
    expect(made[1]!.views[0]).not.toHaveProperty('rotation');
  });

  it('become sheets of those numbers also where no named paper has their size', async () => {
    const entities =
      frame(0, 0, [500, 310]) + number(450, 12, 'O-02') + frame(1000, 0, [520, 320]) + number(1468, 12.5, 'O-01');
    const made = await framed('own-sizes.dxf', entities, { by: 'scale', scale: '1:1' });
    expect(made.map((sheet) => [sheet.number, sheet.paper])).toEqual([
      ['O-01', { size: [520, 320] }],
      ['O-02', { size: [500, 310] }],
    ]);
  });
});

describe('what is sent', () => {
  it('that is not JSON is refused', async () => {
    const { status, body } = await request(server.app)
      .post(path(ROUTES.packages, { project: server.project }))
      .set('Content-Type', 'application/json')
      .send('{');
    expect([status, body.problem.code]).toEqual([400, 'request.unreadable']);
  });

  it("comes back without a trace of the server's inside", async () => {
    const { headers } = await request(server.app).get(ROUTES.health);
    expect(headers['x-powered-by']).toBeUndefined();
    expect(headers['content-security-policy']).toContain("default-src 'self'");
  });
});

/** Streams a form with a file of so many megabytes; resolves with the answer, which may come before all is sent. */
function sendMegabytes(port: number, url: string, megabytes: number): Promise<{ status: number; body: string }> {
  return new Promise((resolve, reject) => {
    const boundary = 'x-boundary';
    const headers = { 'Content-Type': `multipart/form-data; boundary=${boundary}` };
    const sending = httpRequest({ port, host: '127.0.0.1', path: url, method: 'POST', headers }, (response) => {
      let body = '';
      response.on('data', (chunk: Buffer) => (body += chunk.toString()));
      response.on('end', () => resolve({ status: response.statusCode ?? 0, body }));
    });
    sending.on('error', reject);
    sending.write(`--${boundary}\r\nContent-Disposition: form-data; name="file"; filename="huge.dxf"\r\n\r\n`);
    const chunk = Buffer.alloc(1 << 20, '0');
    let left = megabytes;
    const more = (): void => {
      while (left-- > 0) if (!sending.write(chunk)) return void sending.once('drain', more);
      sending.end(`\r\n--${boundary}--\r\n`);
    };
    more();
  });
}
