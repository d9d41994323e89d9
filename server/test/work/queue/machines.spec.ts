import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { path, ROUTES, type ProjectSummary, type RunInfo } from '@folvex/contract';
import { sha256 } from '@folvex/press';
import type { KeptProcess } from '../../../../scripts/lib/instance.mjs';
import { ensureNodeBuild } from '../../../../scripts/build-node.mjs';
import { ownFolder } from '../../../../scripts/lib/own-folder.mjs';
import { freePort, startPostgres } from '../../../../scripts/lib/postgres.mjs';
import { keepRunning } from '../../../../scripts/lib/services.mjs';
import { breakingProxy, type BreakingProxy } from '../../../../press/test/support/peers';
import { tool } from '../../../../press/test/support/published';
import { ACCESS_KEY, SECRET, startBucket } from '../../../../press/test/support/bucket';
import { call } from '../../support/call';

const SHEETS = 200;
const NUMBERS = Array.from({ length: SHEETS }, (_, i) => `X-${i}`);
const MIGRATIONS = fileURLToPath(new URL('../../../drizzle', import.meta.url));

/** A machine with a disk of its own, which can be cut off from the database and the bucket. */
interface Machine {
  process: KeptProcess;
  cutOff(): void;
}

/** Two servers and three workers, each with a folder of its own; they share a database and a bucket. */
describe('several machines', () => {
  const data = ownFolder('folvex-machines-');
  const ending: (() => Promise<unknown> | unknown)[] = [];
  let databaseUrl = '';
  let bucketPort = 0;

  beforeAll(async () => {
    await ensureNodeBuild();
    ending.push(() => rmSync(data, { recursive: true, force: true }));
    const postgres = await startPostgres(join(data, 'postgres'));
    ending.push(() => postgres.remove());
    databaseUrl = postgres.url;
    const bucket = await startBucket(join(data, 'bucket'));
    ending.push(() => bucket.close());
    bucketPort = bucket.port;
    writeJob(data);
  });
  afterAll(async () => {
    for (const end of ending.reverse()) await end();
  });

  async function start(kind: 'server' | 'worker', name: string, port = 0): Promise<Machine> {
    const database = new URL(databaseUrl);
    const proxies: BreakingProxy[] = [
      await breakingProxy(Number(database.port), Infinity),
      await breakingProxy(bucketPort, Infinity),
    ];
    database.port = String(proxies[0]!.port);
    const process = keepRunning(kind, {
      DATABASE_URL: database.href,
      FOLVEX_DATA: join(data, name),
      FOLVEX_BUCKET: `http://127.0.0.1:${proxies[1]!.port}/plans/office`,
      AWS_ACCESS_KEY_ID: ACCESS_KEY,
      AWS_SECRET_ACCESS_KEY: SECRET,
      FOLVEX_DEMO: join(data, 'job.json'),
      FOLVEX_MIGRATIONS: MIGRATIONS,
      FOLVEX_PORT: String(port),
      FOLVEX_THREADS: '1',
      FOLVEX_LOG: 'error',
    });
    const cutOff = (): void => proxies.forEach((proxy) => proxy.close());
    ending.push(async () => {
      await process.stop();
      cutOff();
    });
    await process.ready;
    return { process, cutOff };
  }

  it('publish a run whole although workers are killed and one is cut off, and every server tells its progress', async () => {
    const bases: string[] = [];
    for (const name of ['server a', 'server b']) {
      const port = await freePort();
      await start('server', name, port);
      bases.push(`http://127.0.0.1:${port}`);
    }
    const [a, b] = bases as [string, string];
    const [one, two, three] = (await Promise.all(
      ['worker 1', 'worker 2', 'worker 3'].map((name) => start('worker', name)),
    )) as [Machine, Machine, Machine];

    const [project] = await call<ProjectSummary[]>(a + ROUTES.projects);
    const at = { project: project!.id, package: 'all' };
    const { id } = await call<RunInfo>(a + path(ROUTES.runs, at), {});

    const trouble: [from: number, what: () => void][] = [
      [SHEETS * 0.1, () => process.kill(one.process.pid!, 'SIGKILL')],
      [SHEETS * 0.3, () => two.cutOff()],
      [SHEETS * 0.5, () => process.kill(three.process.pid!, 'SIGKILL')],
    ];
    const doneSheets: number[] = [];
    let last: RunInfo | undefined;
    for await (const run of events(b + path(ROUTES.runEvents, { run: id }))) {
      last = run;
      doneSheets.push(run.sheets.filter(({ state }) => state === 'done').length);
      while (trouble.length > 0 && trouble[0]![0] <= doneSheets.at(-1)!) trouble.shift()![1]();
    }
    expect(trouble).toEqual([]);
    expect(doneSheets).toEqual([...doneSheets].sort((x, y) => x - y));
    expect(last).toMatchObject({ state: 'done', problem: null, files: [{ pages: SHEETS }] });
    const proof = last!.files[0]!.proof!;
    expect({ pages: proof.pages, differences: proof.differences, unread: proof.unread }).toEqual({
      ...{ pages: SHEETS, differences: [], unread: undefined },
    });
    expect(last!.sheets.map(({ number }) => number)).toEqual(NUMBERS);

    // Both servers have the same file, in which every sheet is once, in order.
    for (const base of bases) {
      const response = await fetch(base + path(ROUTES.runFile, { run: id, index: '0' }));
      const bytes = Buffer.from(await response.arrayBuffer());
      expect(sha256(bytes)).toBe(last!.files[0]!.sha256);
      writeFileSync(join(data, 'all.pdf'), bytes);
    }
    const pages = tool('pdftotext', join(data, 'all.pdf'), '-').split('\f').slice(0, -1);
    expect(pages.map((text) => /\bX-\d+\b/.exec(text)?.[0])).toEqual(NUMBERS);
  }, 240_000);
});

/** What a stream of server-sent events tells, until it ends. */
async function* events(url: string): AsyncGenerator<RunInfo> {
  const { body } = await fetch(url);
  let text = '';
  for await (const chunk of body!.pipeThrough(new TextDecoderStream())) {
    text += chunk;
    const parts = text.split('\n\n');
    text = parts.pop()!;
    for (const part of parts) yield JSON.parse(part.replace(/^data: /, '')) as RunInfo;
  }
}

/** Writes a job file, with its drawing next to it: one package of many sheets that show the same lines, in millimetres. */
function writeJob(folder: string): void {
  const lines = Array.from({ length: 1000 }, (_, i) => {
    const [x, y] = [(i % 100) * 100, Math.floor(i / 100) * 400];
    return `0\nLINE\n8\nL${i % 9}\n10\n${x}\n20\n${y}\n11\n${x + 50}\n21\n${(i * 7) % 4000}\n`;
  });
  const header = '0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n';
  writeFileSync(join(folder, 'part.dxf'), `${header}0\nSECTION\n2\nENTITIES\n${lines.join('')}0\nENDSEC\n0\nEOF\n`);
  const view = { id: 'v', drawing: 'part', space: 'model', window: [0, 0, 10_000, 4000], scale: '1:100', at: [30, 74] };
  const paper = { name: 'A3', orientation: 'landscape' };
  const sheets = NUMBERS.map((number) => {
    return {
      id: number,
      number,
      title: number,
      group: 'plans',
      paper,
      frame: 'iso5457',
      titleBlock: {},
      views: [view],
    };
  });
  const job = {
    folvex: 4,
    project: { number: '1', name: 'Parts', client: '' },
    drawings: [{ id: 'part', file: 'part.dxf' }],
    groups: [{ id: 'plans', name: 'Plans' }],
    recipes: [{ id: 'plain', name: 'Plain' }],
    sheets,
    packages: [
      {
        id: 'all',
        name: 'All',
        recipe: 'plain',
        order: NUMBERS,
        bundling: 'one',
        names: { file: '', folder: '', bundle: 'all' },
      },
    ],
  };
  writeFileSync(join(folder, 'job.json'), JSON.stringify(job));
}
