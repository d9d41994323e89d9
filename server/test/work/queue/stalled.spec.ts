import { readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { isRunSettled, path, ROUTES, type ProjectInfo, type ProjectSummary, type RunInfo } from '@folvex/contract';
import { startInstance, type Instance, type KeptProcess } from '../../../../scripts/lib/instance.mjs';
import { ownFolder } from '../../../../scripts/lib/own-folder.mjs';
import { freePort } from '../../../../scripts/lib/postgres.mjs';
import { keepRunning } from '../../../../scripts/lib/services.mjs';
import { call } from '../../support/call';
import { until } from '../../support/harness';

/** Real processes, one of which is stopped past its lease while it works, and then goes on. */
describe('a run whose worker stalls', () => {
  const data = ownFolder('folvex-stalled-');
  let instance: Instance;
  let second: KeptProcess;
  let base = '';

  beforeAll(async () => {
    const port = await freePort();
    base = `http://127.0.0.1:${port}`;
    const settings = { FOLVEX_THREADS: '1', FOLVEX_LOG: 'silent', FOLVEX_LEASE_SECONDS: '5' };
    instance = await startInstance(data, { settings: { FOLVEX_PORT: String(port), ...settings } });
    await instance.ready;
    second = keepRunning('worker', { ...(process.env as Record<string, string>), ...instance.environment });
    await second.ready;
  });

  afterAll(async () => {
    await second?.stop();
    await instance?.remove();
    rmSync(data, { recursive: true, force: true });
  });

  const get = <T>(route: string): Promise<T> => call<T>(base + route);
  const send = <T>(route: string, body: object, method?: string): Promise<T> => call<T>(base + route, body, method);
  const runNow = (id: string): Promise<RunInfo> => get<RunInfo>(path(ROUTES.run, { run: id }));

  it('is finished by another one, and stays as it is when the first goes on', async () => {
    const [project] = await get<ProjectSummary[]>(ROUTES.projects);
    const at = { project: project!.id };
    const { packages } = await get<ProjectInfo>(path(ROUTES.project, at));
    const pack = packages.find(({ id }) => id === 'tender')!.id;
    const destination = { kind: 'folder' as const, folder: 'tender', onConflict: 'stop' };
    await send(path(ROUTES.package, { ...at, package: pack }), { destinations: [destination] }, 'PATCH');
    const stalled = instance.worker().pid!;
    const { id } = await send<RunInfo>(path(ROUTES.runs, { ...at, package: pack }), {});
    process.kill(stalled, 'SIGSTOP');
    try {
      const done = await until(
        () => runNow(id),
        (run) => run.state === 'failed' || isRunSettled(run, 0),
      );
      expect(done).toMatchObject({ state: 'done', problem: null });
      expect(done.deliveries).toMatchObject([{ state: 'done' }]);
      expect(done.deliveries[0]!.receipts.map(({ outcome }) => outcome)).toEqual(
        done.files.map(({ path: file, bytes, sha256: hex }) => ({
          ...{ path: file, how: 'new', bytes },
          hash: { algorithm: 'SHA-256', hex },
        })),
      );
      process.kill(stalled, 'SIGCONT');
      // It works again: a run that needs both is made by both, or by one of them, and the first one is as it was.
      const { id: again } = await send<RunInfo>(path(ROUTES.runAgain, { run: id }), {});
      await until(
        () => runNow(again),
        ({ state }) => state === 'done' || state === 'failed',
      );
      expect(await runNow(id)).toEqual(done);
      // It was stopped in the middle of something, and went on all the same.
      expect(instance.worker().pid).toBe(stalled);
    } finally {
      process.kill(stalled, 'SIGCONT');
    }
  });

  it('keeps its files at the destination once', async () => {
    const [project] = await get<ProjectSummary[]>(ROUTES.projects);
    const { runs } = await get<ProjectInfo>(path(ROUTES.project, { project: project!.id }));
    const delivered = readdirSync(join(data, 'delivered', 'tender'), { recursive: true, withFileTypes: true });
    expect(delivered.filter((entry) => entry.isFile())).toHaveLength(runs[0]!.files.length);
  });
});
