import request from 'supertest';
import {
  path,
  ROUTES,
  type EditAnswer,
  type PackageChange,
  type ProjectInfo,
  type Received,
  type RunInfo,
} from '@folvex/contract';
import { sha256 } from '@folvex/press';
import { until, useServer } from '../support/harness';

/** A PNG of one pixel. */
const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

const server = useServer();
beforeAll(() => server.work());

const change = (body: PackageChange) =>
  request(server.app)
    .patch(path(ROUTES.package, { project: server.project, package: 'permit' }))
    .send(body);

async function published(): Promise<RunInfo> {
  const asked = await request(server.app).post(path(ROUTES.runs, { project: server.project, package: 'permit' }));
  expect(asked.status).toBe(201);
  const { id } = asked.body as RunInfo;
  return until(
    async () => (await request(server.app).get(path(ROUTES.run, { run: id }))).body as RunInfo,
    ({ state, files }) => state === 'failed' || (state === 'done' && files.every(({ proof }) => proof !== null)),
  );
}

const file = (run: RunInfo, index: number) =>
  request(server.app)
    .get(path(ROUTES.runFile, { run: run.id, index }))
    .responseType('blob');

it('writes sheets in other formats than PDF, reads them again, and takes them from the store the next time', async () => {
  const { body } = await request(server.app).get(path(ROUTES.project, { project: server.project }));
  const { packages, sheets } = body as ProjectInfo;
  const order = packages.find(({ id }) => id === 'permit')!.order.slice(0, 2);
  const extraFormats = { formats: ['png' as const, 'dxf' as const], dpi: 72, apart: true as const };
  await change({ order, extraFormats, pages: { [order[1]!]: { extraFormats: ['svg'] } } }).expect(200);
  const run = await published();
  expect(run).toMatchObject({ state: 'done', problem: null });
  const [first, second] = order.map((id) => sheets.find((sheet) => sheet.id === id)!);
  const nameOf = (sheet: typeof first): string => `${sheet!.number} ${sheet!.title} - rev ${sheet!.revision!.index}`;
  expect(run.files.map(({ path, format }) => [path, format]).slice(1)).toEqual([
    [`DXF/${nameOf(first)}.dxf`, 'dxf'],
    [`SVG/${nameOf(second)}.svg`, 'svg'],
    [`PNG/${nameOf(first)}.png`, 'png'],
  ]);
  expect(run.files.map(({ proof }) => proof!.differences)).toEqual([[], [], [], []]);
  const types = ['application/pdf', 'image/vnd.dxf', 'image/svg+xml', 'image/png'];
  for (const [index, type] of types.entries()) {
    const got = await file(run, index);
    expect(got.headers['content-type']).toContain(type);
    expect(sha256(got.body as Buffer)).toBe(run.files[index]!.sha256);
  }
  const { body: report } = await request(server.app).get(path(ROUTES.runReport, { run: run.id, format: 'json' }));
  expect((report as { files: { format: string }[] }).files.map(({ format }) => format)).toEqual([
    ...['PDF', 'DXF', 'SVG', 'PNG'],
  ]);
  const again = await published();
  expect(again.files.map(({ sha256: hash }) => hash)).toEqual(run.files.map(({ sha256: hash }) => hash));
  // No worker had to make anything.
  expect(again.sheets.map(({ worker }) => worker)).toEqual([null, null]);
  // Another resolution makes the picture anew, and nothing else.
  await change({ extraFormats: { ...extraFormats, dpi: 96 } }).expect(200);
  const finer = await published();
  const same = finer.files.map(({ sha256: hash }, i) => hash === run.files[i]!.sha256);
  expect(same).toEqual([true, true, true, false]);
  await change({ extraFormats: null, pages: {} }).expect(200);
  expect((await published()).files).toHaveLength(1);
});

it('does not begin with pictures that would be too large, or formats that it does not know', async () => {
  await change({ extraFormats: { formats: ['png'], dpi: 1200 } }).expect(200);
  const asked = await request(server.app).post(path(ROUTES.runs, { project: server.project, package: 'permit' }));
  expect(asked.status).toBe(409);
  expect(JSON.stringify(asked.body)).toContain('picture.too-large');
  const unknown = await change({ extraFormats: { formats: ['bmp' as 'png'] } });
  expect(unknown.status).toBe(400);
  await change({ extraFormats: null }).expect(200);
});

it('writes the pictures of DXF as files in its folder, once for all sheets there, and reads them again', async () => {
  const added = await request(server.app)
    .post(path(ROUTES.drawings, { project: server.project }))
    .attach('file', Buffer.from(PIXEL, 'base64'), 'Quay wall.png');
  const { drawing } = added.body as Extract<Received, { outcome: 'added' }>;
  const order: string[] = [];
  for (const number of ['A-901', 'A-902']) {
    const sheet = { drawing: drawing.id, number, title: 'Photo', group: '', scale: '100:1' };
    const made = await request(server.app)
      .post(path(ROUTES.sheets, { project: server.project }))
      .send({ ...sheet, paper: { name: 'A4', orientation: 'landscape' } });
    order.push((made.body as EditAnswer).sheets[0]!.id);
  }
  await change({ order, extraFormats: { formats: ['dxf'], dxfPictures: 'files', apart: true as const } }).expect(200);
  const run = await published();
  expect(run).toMatchObject({ state: 'done', problem: null });
  const [first, picture, second, ...more] = run.files.slice(1);
  expect([first!.path, second!.path, more]).toEqual(['DXF/A-901 Photo.dxf', 'DXF/A-902 Photo.dxf', []]);
  expect(picture).toMatchObject({ path: expect.stringMatching(/^DXF\/Quay wall-[0-9a-f]{8}\.png$/), format: 'png' });
  expect(run.files.map(({ proof }) => proof!.differences)).toEqual([[], [], [], []]);
  expect(sha256((await file(run, 2)).body as Buffer)).toBe(picture!.sha256);
  const again = await published();
  expect(again.files.map(({ sha256: hash }) => hash)).toEqual(run.files.map(({ sha256: hash }) => hash));
  expect(again.sheets.map(({ worker }) => worker)).toEqual([null, null]);
});
