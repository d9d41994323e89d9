import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import request from 'supertest';
import { path, ROUTES, type NewIssue, type RunInfo, type StoppedRun } from '@folvex/contract';
import type { Issue, IssuedState, ProjectFacts } from '@folvex/core';
import { until, useServer } from '../support/harness';

const server = useServer();
beforeAll(() => server.work());
const folder = mkdtempSync(join(tmpdir(), 'folvex-issues-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function published(pack: string): Promise<RunInfo> {
  const { body } = await request(server.app).post(path(ROUTES.runs, { project: server.project, package: pack }));
  const id = (body as RunInfo).id;
  const run = async (): Promise<RunInfo> =>
    (await request(server.app).get(path(ROUTES.run, { run: id }))).body as RunInfo;
  return until(run, ({ state }) => state === 'done');
}

const issues = () => path(ROUTES.issues, { project: server.project });
const make = (body: Partial<NewIssue>) =>
  request(server.app)
    .post(issues())
    .send({ date: '2026-11-26', purpose: 'Permit', recipients: ['Plan checker'], ...body });

describe('an issue', () => {
  let run: RunInfo;
  let first: Issue;
  beforeAll(async () => {
    run = await published('permit');
    first = (await make({ run: run.id, remarks: 'Two copies.' })).body as Issue;
  });

  it('writes down what the run held: sheets with revisions, files with hashes', () => {
    expect(first).toMatchObject({ number: 1, packageName: 'Permit set', remarks: 'Two copies.', runId: run.id });
    expect(first.sheets).toHaveLength(9);
    expect(first.sheets.find(({ number }) => number === 'A-101')).toMatchObject({ revision: 'P03' });
    expect(first.files.map(({ sha256 }) => sha256)).toEqual(run.files.map(({ sha256 }) => sha256));
  });

  it('is what its sheets are compared with before they are published again', async () => {
    const sheet = first.sheets.find(({ number }) => number === 'A-102')!.id;
    const title = (to: string) =>
      request(server.app)
        .patch(path(ROUTES.sheet, { project: server.project, sheet }))
        .send({ title: to })
        .expect(200);
    const { body } = await request(server.app).get(path(ROUTES.issuedSheets, { project: server.project }));
    const states = body as IssuedState[];
    expect(states).toHaveLength(first.sheets.length);
    const state = states.find((one) => one.sheet.id === sheet)!;
    expect(state).toMatchObject({ issue: 1, sheet: { title: 'Upper floor plan' } });
    expect(Object.values(state.contents).every((hash) => /^[0-9a-f]{64}$/.test(hash))).toBe(true);
    // A stop of that kind ends the run; the project may make it one.
    const { project } = (await request(server.app).get(path(ROUTES.project, { project: server.project }))).body as {
      project: ProjectFacts;
    };
    const weigh = (checks: ProjectFacts['checks']) =>
      request(server.app)
        .patch(path(ROUTES.settings, { project: server.project }))
        .send({ project: { checks } })
        .expect(200);
    await weigh({ ...project.checks, 'revision.unchanged': 'stop' });
    await title('Upper floor');
    const stopped = await request(server.app).post(path(ROUTES.runs, { project: server.project, package: 'permit' }));
    expect([stopped.status, (stopped.body as StoppedRun).findings[0]!.code]).toEqual([409, 'revision.unchanged']);
    await title('Upper floor plan');
    await weigh(project.checks ?? {});
  });

  it('stays as it was when its sheets change afterwards', async () => {
    const sheet = first.sheets.find(({ number }) => number === 'A-101')!.id;
    await request(server.app)
      .patch(path(ROUTES.sheet, { project: server.project, sheet }))
      .send({ number: 'A-199' })
      .expect(200);
    const { body } = await request(server.app).get(issues());
    expect(body).toEqual([first]);
    await request(server.app)
      .patch(path(ROUTES.sheet, { project: server.project, sheet }))
      .send({ number: 'A-101' });
  });

  it('cannot be altered or taken away, only superseded, and that once', async () => {
    const address = `${issues()}/${first.id}`;
    for (const method of ['put', 'patch', 'delete'] as const) {
      await request(server.app)[method](address).send({ purpose: 'Tender' }).expect(404);
    }
    const second = await make({ run: run.id, purpose: 'Permit, corrected', supersedes: first.id });
    expect(second.body).toMatchObject({ number: 2, supersedes: first.id });
    const again = await make({ run: run.id, supersedes: first.id });
    expect(again.status).toBe(409);
    expect(again.body.problem.sentence).toContain('superseded by issue 2');
  });

  it('needs a run that is done, a date, a purpose and a recipient', async () => {
    await make({ run: 'none' }).expect(404);
    for (const wrong of [{ purpose: ' ' }, { recipients: [] }, { date: 'today' }]) {
      const { status, body } = await make({ run: run.id, ...wrong });
      expect([wrong, status]).toEqual([wrong, 400]);
      expect(body.problem.sentence).toMatch(/needs|must/);
    }
  });

  it('gets numbers one after the other also when several are made at once', async () => {
    const made = await Promise.all([1, 2, 3].map(() => make({ run: run.id })));
    const numbers = made.map(({ body }) => (body as Issue).number).sort();
    expect(new Set(numbers).size).toBe(3);
  });

  it('has a transmittal that poppler and qpdf read, the same bytes each time', async () => {
    const get = async (): Promise<Buffer> =>
      (
        await request(server.app)
          .get(path(ROUTES.transmittal, { project: server.project, issue: first.id }))
          .responseType('blob')
      ).body as Buffer;
    const [one, two] = [await get(), await get()];
    expect(one.equals(two)).toBe(true);
    const file = join(folder, 'transmittal.pdf');
    writeFileSync(file, one);
    const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
    for (const words of ['Transmittal 1', 'Plan checker', 'Two copies.', 'A-101', 'P03']) expect(text).toContain(words);
    expect(execFileSync('qpdf', ['--check', file], { encoding: 'utf8' })).toContain('No syntax');
    expect(execFileSync('pdfinfo', [file], { encoding: 'utf8' })).toMatch(
      /Page size:\s+595\.\d+ x 841\.\d+ pts \(A4\)/,
    );
  });

  it('has a register as a workbook, with the revisions in it', async () => {
    const { body, headers } = await request(server.app)
      .get(path(ROUTES.register, { project: server.project }))
      .responseType('blob');
    expect(headers['content-type']).toContain('spreadsheetml');
    const file = join(folder, 'register.xlsx');
    writeFileSync(file, body as Buffer);
    // Read by Python's own zipfile, which knows nothing of what wrote it.
    const script =
      'import sys,zipfile; z=zipfile.ZipFile(sys.argv[1]); print("".join(z.read(n).decode() for n in z.namelist() if "sheet1" in n or "shared" in n))';
    const xml = execFileSync('python3', ['-c', script, file], { encoding: 'utf8' });
    for (const words of ['A-101', 'P03', 'Permit, corrected', '1 (superseded)']) expect(xml).toContain(words);
  });
});
