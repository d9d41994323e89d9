import { rmSync } from 'node:fs';
import { path, ROUTES, type DrawingInfo, type ProjectSummary, type RunInfo } from '@folvex/contract';
import type { Sheet, SheetPackage } from '@folvex/core';
import { startInstance, type Instance } from '../../scripts/lib/instance.mjs';
import { ownFolder } from '../../scripts/lib/own-folder.mjs';
import { freePort } from '../../scripts/lib/postgres.mjs';
import { until } from './harness';

const SHEETS = 16;

/** Real processes, killed the hard way while they work. */
describe('a run whose processes are killed', () => {
  const data = ownFolder('folvex-survival-');
  let instance: Instance;
  let base = '';

  beforeAll(async () => {
    const port = await freePort();
    base = `http://127.0.0.1:${port}`;
    instance = await startInstance(data, { settings: { FOLVEX_PORT: String(port), FOLVEX_THREADS: '1' } });
    await instance.ready;
  }, 120_000);

  afterAll(async () => {
    await instance?.stop();
    rmSync(data, { recursive: true, force: true });
  }, 60_000);

  const call = async <T>(url: string, body?: object, method = body ? 'POST' : 'GET'): Promise<T> => {
    const headers = { 'Content-Type': 'application/json' };
    const response = await fetch(base + url, { method, headers, ...(body && { body: JSON.stringify(body) }) });
    if (!response.ok) throw new Error(`${response.status} ${await response.text()}`);
    return (await response.json()) as T;
  };
  /** The run, or nothing while the server is down. */
  const look = (id: string): Promise<RunInfo | undefined> =>
    call<RunInfo>(path(ROUTES.run, { run: id })).catch(() => undefined);

  it('goes on after each of them and ends with every file', async () => {
    const [project] = await call<ProjectSummary[]>(ROUTES.projects);
    const drawing = await sendDrawing(base, project!.id);
    const order: string[] = [];
    for (let i = 0; i < SHEETS; i++) {
      const sheet = {
        drawing,
        number: `X-${i}`,
        title: 'Heavy',
        group: 'plans',
        paper: { name: 'A1', orientation: 'landscape' },
        scale: '1:100',
      };
      order.push((await call<Sheet>(path(ROUTES.sheets, { project: project!.id }), sheet)).id);
    }
    const pack = await call<SheetPackage>(path(ROUTES.packages, { project: project!.id }), { name: 'Heavy set' });
    await call(path(ROUTES.package, { project: project!.id, package: pack.id }), { order }, 'PATCH');
    const { id } = await call<RunInfo>(path(ROUTES.runs, { project: project!.id, package: pack.id }), {});
    const made = (run: RunInfo | undefined): number => run?.sheets.filter(({ state }) => state === 'done').length ?? 0;

    await until(
      () => look(id),
      (run) => made(run) >= 1,
    );
    process.kill(instance.worker().pid!, 'SIGKILL');
    const before = made(await look(id));
    expect(before).toBeLessThan(SHEETS);
    await until(
      () => look(id),
      (run) => made(run) > before,
    );

    process.kill(instance.server.pid!, 'SIGKILL');
    const run = await until(
      () => look(id),
      (found) => found?.state === 'done' || found?.state === 'failed',
    );
    expect(run).toMatchObject({ state: 'done', problem: null });
    expect(run!.files).toEqual([expect.objectContaining({ pages: SHEETS })]);
  }, 180_000);
});

/** A drawing that takes a noticeable time to compose, in millimetres. */
async function sendDrawing(base: string, project: string): Promise<string> {
  const lines: string[] = [];
  for (let i = 0; i < 60_000; i++) {
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
