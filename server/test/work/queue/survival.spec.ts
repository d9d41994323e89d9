import { readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import {
  path,
  ROUTES,
  type DrawingInfo,
  type ProjectInfo,
  type ProjectSummary,
  type RunInfo,
  type EditAnswer,
} from '@folvex/contract';
import { sha256 } from '@folvex/press';
import { startInstance, type Instance } from '../../../../scripts/lib/instance.mjs';
import { ownFolder } from '../../../../scripts/lib/own-folder.mjs';
import { freePort } from '../../../../scripts/lib/postgres.mjs';
import { numbers } from '../../../../core/test/support/numbers';
import { call } from '../../support/call';
import { until } from '../../support/harness';

const SHEETS = 8;
/** Moments at which processes are killed: `npm run nightly` asks for more. */
const KILLS = Number(process.env['FOLVEX_KILLS'] ?? 20);
/** How many processes are killed at once, at most: all of them. */
const MAX_AT_ONCE = 3;
const KILLS_A_ROUND = 5;
const ROUNDS = Math.ceil(KILLS / KILLS_A_ROUND);
/** Kills come up to so many looks at the run after one another. */
const MAX_LOOKS = 30;

/** Real processes, killed the hard way while they work. */
describe('runs whose processes are killed', () => {
  const data = ownFolder('folvex-survival-');
  let instance: Instance;
  let base = '';

  beforeAll(async () => {
    const port = await freePort();
    base = `http://127.0.0.1:${port}`;
    instance = await startInstance(data, {
      settings: { FOLVEX_PORT: String(port), FOLVEX_THREADS: '1', FOLVEX_LOG: 'silent' },
    });
    await instance.ready;
  });

  afterAll(async () => {
    await instance?.remove();
    rmSync(data, { recursive: true, force: true });
  });

  const send = <T>(route: string, body?: object, method?: string): Promise<T> => call<T>(base + route, body, method);
  /** An answer, or nothing while the server or the database is down. */
  const ask = <T>(url: string): Promise<T | undefined> => send<T>(url).catch(() => undefined);
  const look = (id: string): Promise<RunInfo | undefined> => ask<RunInfo>(path(ROUTES.run, { run: id }));
  const ended = (run: RunInfo | undefined): boolean => run?.state === 'done' || run?.state === 'failed';
  const victims: Readonly<Record<string, () => number | undefined>> = {
    worker: () => instance.worker().pid,
    server: () => instance.server.pid,
    database: () => Number(readFileSync(join(instance.database!.data, 'postmaster.pid'), 'utf8').split('\n')[0]),
  };

  /** Kills one or more of the processes at once; one that is just being started again is left alone. */
  const killSome = (turn: number): string[] => {
    const names = Object.keys(victims);
    const chosen = Array.from({ length: 1 + (turn % MAX_AT_ONCE) }, (_, i) => names[(turn + i) % names.length]!);
    return chosen.filter((name) => isKilled(victims[name]!));
  };

  it(
    `go on after kills at ${KILLS} random moments: every file whole and once, no edit lost`,
    async () => {
      const [project] = await send<ProjectSummary[]>(ROUTES.projects);
      const at = { project: project!.id };
      const drawing = await sendDrawing(base, project!.id);
      const order: string[] = [];
      for (let i = 0; i < SHEETS; i++) {
        const paper = { name: 'A1', orientation: 'landscape' };
        const sheet = { drawing, number: `X-${i}`, title: 'Heavy', group: 'plans', paper, scale: '1:100' };
        order.push((await send<EditAnswer>(path(ROUTES.sheets, at), sheet)).sheets[0]!.id);
      }
      const pack = (await send<EditAnswer>(path(ROUTES.packages, at), { name: 'Heavy set' })).pack!;
      await send(path(ROUTES.package, { ...at, package: pack.id }), { order }, 'PATCH');
      const next = numbers(20);
      const killed: string[][] = [];
      const runs: string[] = [];
      /** Titles that the first sheet may have: the last one that was answered, and what was asked for after it. */
      let titles = ['Heavy'];
      for (let round = 0; round < ROUNDS; round++) {
        // Every sheet is another one than in the round before, or all would come from the store.
        for (const sheet of order)
          await send(path(ROUTES.sheet, { ...at, sheet }), { title: `Round ${round}` }, 'PATCH');
        titles = [`Round ${round}`];
        const { id } = await send<RunInfo>(path(ROUTES.runs, { ...at, package: pack.id }), {});
        runs.push(id);
        for (let kill = 0; kill < KILLS_A_ROUND; kill++) {
          let looks = Math.floor(next() * MAX_LOOKS);
          await until(
            () => look(id),
            (run) => run !== undefined && --looks < 0,
          );
          const title = `Round ${round}, kill ${kill}`;
          titles.push(title);
          const edit = send(path(ROUTES.sheet, { ...at, sheet: order[0]! }), { title }, 'PATCH').then(
            () => (titles = [title]),
            () => undefined,
          );
          killed.push(killSome(killed.length));
          await edit;
        }
        const run = (await until(() => look(id), ended))!;
        const failed = run.sheets.filter(({ state }) => state === 'failed');
        // A sheet that was killed over and over may be given up; then the run says so.
        if (failed.length > 0) expect(run.problem?.sentence).toContain('could not be made');
        else expect(run).toMatchObject({ state: 'done', problem: null, files: [{ pages: SHEETS }] });
        const { sheets } = (await until(
          () => ask<ProjectInfo>(path(ROUTES.project, at)),
          (info) => info !== undefined,
        ))!;
        expect(titles).toContain(sheets.find((sheet) => sheet.id === order[0])!.title);
      }
      expect(killed).toHaveLength(ROUNDS * KILLS_A_ROUND);
      // Most of the time as many were there as were to be killed.
      expect(killed.flat().length).toBeGreaterThan(0.75 * killed.length);
      expectWholeStore(join(data, 'store'));
      for (const id of runs) {
        const before = (await until(() => look(id), ended))!;
        const { id: again } = await send<RunInfo>(path(ROUTES.runAgain, { run: id }), {});
        const after = (await until(() => look(again), ended))!;
        expect(after).toMatchObject({ state: 'done', problem: null });
        if (before.state === 'done') expect(after.files[0]!.sha256).toBe(before.files[0]!.sha256);
      }
    },
    400_000 + KILLS * 20_000,
  );
});

/** False where there is no such process at the moment. */
function isKilled(victim: () => number | undefined): boolean {
  try {
    const pid = victim();
    return pid !== undefined && process.kill(pid, 'SIGKILL');
  } catch {
    return false;
  }
}

/** Every file that has its place is what its name says: the SHA-256 of all of it. */
function expectWholeStore(folder: string): void {
  const files = readdirSync(folder, { recursive: true, withFileTypes: true }).filter(
    (entry) => entry.isFile() && !entry.parentPath.endsWith('new'),
  );
  expect(files.length).toBeGreaterThan(SHEETS);
  for (const { parentPath, name } of files) expect(sha256(readFileSync(join(parentPath, name)))).toBe(name);
}

/** A drawing that takes a noticeable time to compose, in millimetres. */
async function sendDrawing(base: string, project: string): Promise<string> {
  const lines: string[] = [];
  for (let i = 0; i < 20_000; i++) {
    lines.push(
      `0\nLINE\n8\nL${i % 9}\n10\n${i % 300}00\n20\n${Math.floor(i / 300)}00\n11\n${i % 300}50\n21\n${(i * 7) % 20_000}\n`,
    );
  }
  const header = '0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n';
  const text = `${header}0\nSECTION\n2\nENTITIES\n${lines.join('')}0\nENDSEC\n0\nEOF\n`;
  const form = new FormData();
  form.append('file', new Blob([text]), 'heavy.dxf');
  const response = await fetch(base + path(ROUTES.drawings, { project }), { method: 'POST', body: form });
  return ((await response.json()) as { drawing: DrawingInfo }).drawing.id;
}
