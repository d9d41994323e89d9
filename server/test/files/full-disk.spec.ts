import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, statfsSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import request from 'supertest';
import { path, ROUTES, type ProjectInfo, type RunInfo } from '@folvex/contract';
import { createFolderStore } from '../../src/files/folder-store';
import { storageProblem, WholeFile } from '@folvex/press';
import { ownFolder } from '../../../scripts/lib/own-folder.mjs';
import { until, useServer } from '../support/harness';

it.each([
  [Object.assign(new Error('write'), { code: 'ENOSPC' }), 'is full'],
  [new Error('ENOSPC: no space left on device, write'), 'is full'],
  [new Error('EROFS: read-only file system, open'), 'can only be read'],
  [new Error('EACCES: permission denied, open'), 'does not let Folvex write'],
])('what is wrong with the disk is told from %s', (error, words) => {
  expect(storageProblem(error)?.sentence).toContain(words);
});

it('other errors are not taken for the disk\u2019s', () => {
  expect(storageProblem(new Error('ENOENTITY: something else'))).toBeUndefined();
  expect(storageProblem('ENOSPC: no error')).toBeUndefined();
});

it('what killed processes left unfinished is swept from the store, and nothing else', async () => {
  const folder = ownFolder('folvex-sweep-');
  const store = createFolderStore(folder);
  const hash = await store.put(Buffer.from('kept'));
  const file = new WholeFile(store.workFolder);
  writeFileSync(join(folder, 'new', 'old.part'), 'left');
  utimesSync(join(folder, 'new', 'old.part'), 1, 1);
  expect(await store.removeUnfinished(60_000)).toBe(1);
  expect(await store.removeUnfinished(60_000)).toBe(0);
  file.write(Buffer.from('still being written'));
  file.sync();
  expect(await store.has(hash)).toBe(true);
  rmSync(folder, { recursive: true });
});

/** Only root may mount a disk of its own; elsewhere the sentences above are what is tested. */
const asRoot = process.getuid?.() === 0 ? describe : describe.skip;

asRoot('a run on a disk of 24 MB', () => {
  let disk = '';
  const server = useServer({
    prepare: (store) => {
      mkdirSync(store);
      execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=24m', 'tmpfs', store]);
      disk = store;
      return () => execFileSync('umount', ['-l', store]);
    },
  });
  beforeAll(() => server.work());

  const runOf = async (id: string): Promise<RunInfo> =>
    (await request(server.app).get(path(ROUTES.run, { run: id }))).body as RunInfo;
  const over = (id: string): Promise<RunInfo> =>
    until(
      () => runOf(id),
      ({ state }) => /done|failed/.test(state),
    );
  const retitle = async (title: string): Promise<void> => {
    const { body } = await request(server.app).get(path(ROUTES.project, { project: server.project }));
    for (const { id } of (body as ProjectInfo).sheets.slice(0, 3)) {
      const route = path(ROUTES.sheet, { project: server.project, sheet: id });
      await request(server.app).patch(route).send({ title }).expect(200);
    }
  };
  const published = async (): Promise<RunInfo> => {
    const route = path(ROUTES.runs, { project: server.project, package: 'permit' });
    const { body } = await request(server.app).post(route).expect(201);
    return over((body as RunInfo).id);
  };
  const again = async (run: RunInfo): Promise<RunInfo> => {
    const { body } = await request(server.app)
      .post(path(ROUTES.runAgain, { run: run.id }))
      .expect(201);
    return over((body as RunInfo).id);
  };
  const upload = () =>
    request(server.app)
      .post(path(ROUTES.drawings, { project: server.project }))
      .attach('file', Buffer.from('0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n'.padEnd(9000)), 'new.dxf');

  it('that is full says so, writes no file, and is complete once there is room', async () => {
    const filler = join(disk, 'filler');
    const { bavail, bsize } = statfsSync(disk);
    writeFileSync(filler, Buffer.alloc(bavail * bsize));
    const run = await published();
    expect(run.state).toBe('failed');
    expect(run.files).toEqual([]);
    expect(JSON.stringify([run.problem, ...run.sheets.map(({ problem }) => problem)])).toContain(
      'is full; free some room',
    );
    const { status, body } = await upload();
    expect(status).toBe(507);
    expect(body.problem.sentence).toContain('is full');
    rmSync(filler);
    expect(await again(run)).toMatchObject({ state: 'done', problem: null, files: [{ pages: 9 }] });
    expect((await upload()).status).toBe(201);
  });

  it('that can only be read says so, keeps what was made, and is complete once it can be written', async () => {
    const before = await published();
    await retitle('Changed while it could only be read');
    execFileSync('mount', ['-o', 'remount,ro', disk]);
    const run = await published();
    const sent = await upload();
    execFileSync('mount', ['-o', 'remount,rw', disk]);
    expect([sent.status, sent.body.problem.sentence]).toEqual([507, expect.stringContaining('can only be read')]);
    expect(run).toMatchObject({ state: 'failed', files: [] });
    expect(run.sheets.filter(({ state }) => state === 'done').length).toBe(6);
    expect(run.sheets.find(({ state }) => state === 'failed')!.problem!.sentence).toContain('can only be read');
    expect(await again(run)).toMatchObject({ state: 'done', problem: null });
    expect((await again(before)).files[0]!.sha256).toBe(before.files[0]!.sha256);
  });
});
