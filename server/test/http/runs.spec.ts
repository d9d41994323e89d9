import { execFileSync } from 'node:child_process';
import { mkdtempSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import request from 'supertest';
import { path, ROUTES, type PackageChange, type ProjectInfo, type RunInfo } from '@folvex/contract';
import { sha256 } from '@folvex/press';
import { contentPath, TODAY, until, useServer } from '../support/harness';

const server = useServer();
beforeAll(() => server.work());

const change = (pack: string, body: PackageChange) =>
  request(server.app)
    .patch(path(ROUTES.package, { project: server.project, package: pack }))
    .send(body);
const publish = (pack: string) =>
  request(server.app).post(path(ROUTES.runs, { project: server.project, package: pack }));
const runOf = async (id: string): Promise<RunInfo> =>
  (await request(server.app).get(path(ROUTES.run, { run: id }))).body as RunInfo;
const ended = (run: RunInfo): boolean => run.state !== 'waiting' && run.state !== 'running';

async function published(pack: string): Promise<RunInfo> {
  const { status, body } = await publish(pack);
  expect(status).toBe(201);
  return until(() => runOf((body as RunInfo).id), ended);
}

describe('a run', () => {
  it('writes the files of the plan, with their hashes', async () => {
    const run = await published('tender');
    expect(run).toMatchObject({ state: 'done', problem: null, packageName: 'Tender, separate sheets' });
    expect(run.files).toHaveLength(8);
    expect(run.sheets.every(({ state }) => state === 'done')).toBe(true);
    const file = await request(server.app)
      .get(path(ROUTES.runFile, { run: run.id, index: 0 }))
      .responseType('blob');
    expect(file.headers['content-type']).toBe('application/pdf');
    expect(sha256(file.body as Buffer)).toBe(run.files[0]!.sha256);
    expect((file.body as Buffer).length).toBe(run.files[0]!.bytes);
  });

  it('repeated gives the same bytes, from parts made before', async () => {
    const [first, second] = [await published('permit'), await published('permit')];
    expect(first.files[0]!.path).toBe(`2617 Permit set ${TODAY}.pdf`);
    expect(second.files.map(({ path, sha256 }) => [path, sha256])).toEqual(
      first.files.map(({ path, sha256 }) => [path, sha256]),
    );
    // Pages that are the same have the same content; a light table says so without looking.
    expect(second.sheets.map(({ content }) => content)).toEqual(first.sheets.map(({ content }) => content));
    expect(second.id).not.toBe(first.id);
    const made = await server.services.connection.pool.query(
      'select count(*)::int as n from artifacts where kind = $1',
      ['part'],
    );
    // Nine sheets of the permit set and eight of the tender, no more.
    expect(made.rows[0]).toEqual({ n: 17 });
  });

  it('is read again by others, and reported as JSON, CSV and a workbook', async () => {
    const run = await published('permit');
    const read = await until(
      () => runOf(run.id),
      ({ files }) => files.every(({ proof }) => proof !== null),
    );
    expect(read.files[0]!.proof).toMatchObject({ pages: 9, differences: [] });
    expect(read.files[0]!.proof!.measured).toBeGreaterThan(8);
    const report = (format: string) => request(server.app).get(path(ROUTES.runReport, { run: run.id, format }));
    const { body } = await report('json');
    expect(body).toMatchObject({ totals: { files: 1, pages: 9, failedSheets: 0 }, state: 'done' });
    expect(body.files[0]).toMatchObject({ sha256: run.files[0]!.sha256, outcome: 'written, and as it should be' });
    // Made by the run before.
    expect(body.sheets.every(({ outcome }: { outcome: string }) => outcome === 'made before')).toBe(true);
    const csv = await report('csv');
    expect(csv.text.split('\r\n')[1]).toContain(`,9,${run.files[0]!.bytes},`);
    const book = await report('xlsx').responseType('blob');
    expect((book.body as Buffer).subarray(0, 2).toString()).toBe('PK');
    await report('doc').expect(404);
  });

  it('has what the package adds to its sheets: a list with links, stamps, colours of a page; and not what it skips', async () => {
    const { body } = await request(server.app).get(path(ROUTES.project, { project: server.project }));
    const { packages, sheets } = body as ProjectInfo;
    const pack = packages.find(({ id }) => id === 'permit')!;
    const idOf = (number: string): string => sheets.find((sheet) => sheet.number === number)!.id;
    await change('permit', {
      order: ['list', ...pack.order],
      extras: [{ id: 'list', kind: 'index', number: '00', title: 'Sheets' }],
      stamps: [
        { text: 'PRELIMINARY [run.date], [sheet.number], run [run.id]', at: 'top', size: 3.5, colour: 0xb93a14 },
      ],
      pages: {
        [idOf('A-102')]: { skip: true },
        [idOf('A-201')]: {
          colour: 'black',
          stamps: [{ text: 'HELD [sheet.number]', at: 'bottom', size: 5, colour: 0 }],
        },
      },
    }).expect(200);
    const run = await published('permit');
    const file = await request(server.app)
      .get(path(ROUTES.runFile, { run: run.id, index: 0 }))
      .responseType('blob');
    const pdf = join(mkdtempSync(join(tmpdir(), 'folvex-package-')), 'permit.pdf');
    writeFileSync(pdf, file.body as Buffer);
    const pages = execFileSync('pdftotext', ['-layout', pdf, '-'], { encoding: 'utf8' }).split('\f');
    expect(pages).toHaveLength(9 + 1);
    expect(pages[0]).toMatch(/A-101\s+Ground floor plan\s+P03/);
    expect(pages[0]).not.toContain('A-102');
    expect(pages[2]).toContain(`PRELIMINARY ${TODAY}, A-101, run ${run.id.slice(0, 8)}`);
    // Coloured inks of the elevations are all black on this page only, by MuPDF.
    const colours = (page: number): string =>
      execFileSync('mutool', ['draw', '-F', 'trace', pdf, String(page)], { encoding: 'utf8', maxBuffer: 1e9 });
    const inks = (page: number): Set<string> =>
      new Set([...colours(page).matchAll(/<stroke_path [^>]*color="([^"]*)"/g)].map(([, ink]) => ink!));
    const elevations = run.sheets.findIndex(({ number }) => number === 'A-201') + 1;
    expect([...inks(elevations)]).toEqual(['0']);
    // A page may have stamps of its own, besides those of all.
    expect(pages[elevations - 1]).toContain('PRELIMINARY');
    expect(pages.map((text) => text.includes('HELD'))).toEqual(pages.map((_, at) => at === elevations - 1));
    expect(pages[elevations - 1]).toContain('HELD A-201');
    expect(inks(3).size).toBeGreaterThan(1);
    rmSync(dirname(pdf), { recursive: true, force: true });
    await change('permit', { order: pack.order, extras: [], stamps: [], pages: {} }).expect(200);
  });

  it('is made again from what it was made from, whatever has changed since', async () => {
    const first = await published('permit');
    const { body } = await request(server.app).get(path(ROUTES.project, { project: server.project }));
    const sheet = (body as ProjectInfo).sheets.find(({ number }) => number === 'A-101')!;
    const retitle = (title: string) =>
      request(server.app)
        .patch(path(ROUTES.sheet, { project: server.project, sheet: sheet.id }))
        .send({ title });
    await retitle('Another title').expect(200);
    const again = await request(server.app).post(path(ROUTES.runAgain, { run: first.id }));
    const second = await until(() => runOf((again.body as RunInfo).id), ended);
    expect(second.files.map(({ sha256 }) => sha256)).toEqual(first.files.map(({ sha256 }) => sha256));
    await retitle(sheet.title).expect(200);
  });

  it('tells its progress as server-sent events until it is over', async () => {
    const { body } = await publish('tender');
    const { text, headers } = await request(server.app).get(path(ROUTES.runEvents, { run: (body as RunInfo).id }));
    expect(headers['content-type']).toContain('text/event-stream');
    const told = text
      .trim()
      .split('\n\n')
      .map((event) => JSON.parse(event.replace(/^data: /, '')) as RunInfo);
    expect(told.at(-1)!.state).toBe('done');
  });

  it('comes as a ZIP whose entries are the files', async () => {
    const run = await published('tender');
    const zip = await request(server.app)
      .get(path(ROUTES.runZip, { run: run.id }))
      .responseType('blob');
    const bytes = zip.body as Buffer;
    expect(bytes.subarray(0, 4).toString('latin1')).toBe('PK\u0003\u0004');
    const text = bytes.toString('utf8');
    for (const { path: name } of run.files) expect(text).toContain(name);
    // One of its files went missing.
    const lost = contentPath(server, run.files[2]!.sha256);
    renameSync(lost, `${lost}.away`);
    const refusals = [
      await request(server.app).get(path(ROUTES.runZip, { run: run.id })),
      await request(server.app).get(path(ROUTES.runFile, { run: run.id, index: 2 })),
    ];
    renameSync(`${lost}.away`, lost);
    for (const { status, body } of refusals) {
      expect([status, body.problem.code]).toEqual([410, 'run.file-missing']);
      expect(body.problem.sentence).toContain(run.files[2]!.path);
    }
  });

  it('keeps its inputs: a sheet renamed afterwards changes nothing of it', async () => {
    const run = await published('permit');
    await request(server.app)
      .patch(path(ROUTES.sheet, { project: server.project, sheet: 'a001' }))
      .send({ title: 'Other' });
    expect((await runOf(run.id)).sheets[0]!.title).toBe('Site plan');
    const next = await published('permit');
    expect(next.files[0]!.sha256).not.toBe(run.files[0]!.sha256);
  });
});

describe('what stops a run', () => {
  it('is told as findings before anything is written', async () => {
    await change('permit', { names: { file: '', folder: '', bundle: '[sheet.revision]' } });
    const { status, body } = await publish('permit');
    expect(status).toBe(409);
    expect(body.findings[0]).toMatchObject({ severity: 'stop', code: 'name.blank-field' });
    await change('permit', { names: { file: '[sheet.number]', folder: '', bundle: 'Permit' } });
  });

  it('is a package that is not there', async () => {
    expect((await publish('zzz')).status).toBe(404);
    expect((await request(server.app).get(path(ROUTES.run, { run: 'zzz' }))).status).toBe(404);
  });

  it('in one sheet only, leaves the rest usable', async () => {
    const { rows } = await server.services.connection.pool.query<{ sheet: object }>(
      "select sheet from sheets where id = 'a502'",
    );
    const broken = JSON.stringify(rows[0]!.sheet).replace('"1:10"', '"about"');
    await server.services.connection.pool.query("update sheets set sheet = $1 where id = 'a502'", [broken]);
    const run = await published('tender');
    expect(run.state).toBe('failed');
    expect(run.files).toHaveLength(7);
    expect(run.problem!.sentence).toContain('One sheet could not be made and 7 files were written');
    expect(run.sheets.find(({ sheetId }) => sheetId === 'a502')).toMatchObject({
      state: 'failed',
      problem: { code: 'sheet.scale' },
    });
  });

  it('is a cancel: nothing is written afterwards', async () => {
    const { body } = await publish('permit');
    const { id } = body as RunInfo;
    const cancelled = await request(server.app).post(path(ROUTES.runCancel, { run: id }));
    expect(['cancelled', 'done']).toContain((cancelled.body as RunInfo).state);
    const run = await runOf(id);
    if (run.state === 'cancelled') expect(run.files).toEqual([]);
  });
});
