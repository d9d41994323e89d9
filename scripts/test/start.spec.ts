import { spawn, type ChildProcess } from 'node:child_process';
import { readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ownFolder } from '../lib/own-folder.mjs';
import { freePort } from '../lib/postgres.mjs';

const START = fileURLToPath(new URL('../start.mjs', import.meta.url));

interface Started {
  child: ChildProcess;
  /** Everything it printed. */
  said(): string;
  /** Resolves when it says this, rejects with what it said when it ends before. */
  until(text: string): Promise<void>;
  ended: Promise<number | null>;
}

function start(environment: Record<string, string>): Started {
  const child = spawn(process.execPath, [START], {
    env: { ...process.env, ...environment },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  const listeners: (() => void)[] = [];
  for (const stream of [child.stdout!, child.stderr!]) {
    stream.on('data', (chunk: Buffer) => {
      said += chunk.toString();
      listeners.forEach((listener) => listener());
    });
  }
  const ended = new Promise<number | null>((resolve) => child.on('close', resolve));
  return {
    child,
    said: () => said,
    ended,
    until: (text) =>
      new Promise((resolve, reject) => {
        const look = (): void => void (said.includes(text) && resolve());
        listeners.push(look);
        look();
        void ended.then(() => reject(new Error(said)));
      }),
  };
}

/** The processes that a process started, and those that these started. */
function descendantsOf(pid: number): number[] {
  const children = new Map<number, number[]>();
  for (const name of readdirSync('/proc')) {
    const parent = /^\d+$/.test(name) ? parentOf(Number(name)) : undefined;
    if (parent !== undefined) children.set(parent, [...(children.get(parent) ?? []), Number(name)]);
  }
  const below = (one: number): number[] => (children.get(one) ?? []).flatMap((child) => [child, ...below(child)]);
  return below(pid);
}

/** State and parent of a process by `/proc/<pid>/stat`; undefined where it is gone. */
function statOf(pid: number): [state: string, parent: number] | undefined {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const [state, parent] = stat.slice(stat.lastIndexOf(')') + 2).split(' ') as [string, string];
    return [state, Number(parent)];
  } catch {
    return undefined;
  }
}

function parentOf(pid: number): number | undefined {
  return statOf(pid)?.[1];
}

/** A zombie has ended: only nobody has asked how. */
function isRunning(pid: number): boolean {
  const state = statOf(pid)?.[0];
  return state !== undefined && state !== 'Z';
}

/** Asks again until it is so; the test's own time limit ends a wait without hope. */
async function until(isSo: () => Promise<boolean>): Promise<void> {
  while (!(await isSo())) await new Promise((resolve) => setTimeout(resolve, 50));
}

/** The one command, as a person types it; the build is there already. */
describe('npm start', () => {
  const data = ownFolder('folvex-start-');
  afterAll(() => rmSync(data, { recursive: true, force: true }));

  it('answers at its address with the demo, stops on SIGTERM, and starts again after its database was killed', async () => {
    const port = String(await freePort());
    const address = `http://127.0.0.1:${port}`;
    const first = start({ FOLVEX_DATA: data, FOLVEX_PORT: port });
    await first.until(`Folvex is ready at ${address}`);
    expect(await (await fetch(`${address}/api/health`)).json()).toEqual({ ok: true, projects: 1 });
    expect(await (await fetch(`${address}/sheets`)).text()).toContain('<fx-app>');
    first.child.kill('SIGTERM');
    expect(await first.ended).toBe(0);
    await expect(fetch(`${address}/api/health`)).rejects.toThrow();

    const second = start({ FOLVEX_DATA: data, FOLVEX_PORT: port });
    await second.until('Folvex is ready');
    // All of it goes at once, the database too, as when a machine loses its power.
    const [postmaster] = readFileSync(join(data, 'postgres', 'data', 'postmaster.pid'), 'utf8').split('\n');
    process.kill(Number(postmaster), 'SIGKILL');
    second.child.kill('SIGKILL');
    await second.ended;

    const third = start({ FOLVEX_DATA: data, FOLVEX_PORT: port });
    await third.until('Folvex is ready');
    third.child.kill('SIGINT');
    expect(await third.ended).toBe(0);
  });

  it('is refused for a data folder that another one works in, which goes on undisturbed', async () => {
    const [port, other] = [String(await freePort()), String(await freePort())];
    const first = start({ FOLVEX_DATA: data, FOLVEX_PORT: port });
    await first.until('Folvex is ready');
    const second = start({ FOLVEX_DATA: data, FOLVEX_PORT: other });
    expect(await second.ended).toBe(1);
    expect(second.said()).toContain(
      `Another Folvex (process ${first.child.pid}, at http://127.0.0.1:${port}) already works in ${data}`,
    );
    expect(await (await fetch(`http://127.0.0.1:${port}/api/health`)).json()).toEqual({ ok: true, projects: 1 });
    first.child.kill('SIGTERM');
    expect(await first.ended).toBe(0);
  });

  it('brings everything back after server, worker and database were killed at once', async () => {
    const port = String(await freePort());
    const started = start({ FOLVEX_DATA: data, FOLVEX_PORT: port });
    await started.until('Folvex is ready');
    const before = descendantsOf(started.child.pid!);
    expect(before.length).toBeGreaterThanOrEqual(3);
    for (const pid of before) process.kill(pid, 'SIGKILL');
    await until(async () => {
      const answer = await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => undefined);
      return answer?.status === 200;
    });
    const after = descendantsOf(started.child.pid!);
    expect(after.filter((pid) => before.includes(pid))).toEqual([]);
    expect(started.said()).toMatch(/The server stopped .* and is started again/);
    expect(started.said()).toContain('The database stopped and is started again.');
    started.child.kill('SIGINT');
    expect(await started.ended).toBe(0);
  });

  it.each(['SIGTERM', 'SIGKILL'] as const)(
    'leaves nothing running when npm is ended by %s',
    async (signal) => {
      const npm = spawn('npm', ['start', '--silent'], {
        cwd: fileURLToPath(new URL('../..', import.meta.url)),
        env: { ...process.env, FOLVEX_DATA: data, FOLVEX_PORT: String(await freePort()) },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      let said = '';
      npm.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()));
      await until(async () => said.includes('Folvex is ready'));
      const family = descendantsOf(npm.pid!);
      // The start script, the server, the worker, and the database with processes of its own.
      expect(family.length).toBeGreaterThanOrEqual(4);
      npm.kill(signal);
      await until(async () => family.every((pid) => !isRunning(pid)));
    },
    120_000,
  );

  it('leaves nothing running when it is killed itself', async () => {
    const started = start({ FOLVEX_DATA: data, FOLVEX_PORT: String(await freePort()) });
    await started.until('Folvex is ready');
    const family = descendantsOf(started.child.pid!);
    started.child.kill('SIGKILL');
    await until(async () => family.every((pid) => !isRunning(pid)));
  });

  it('says in one sentence that its port is taken', async () => {
    const other = createServer();
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve));
    const { port } = other.address() as { port: number };
    const started = start({ FOLVEX_DATA: data, FOLVEX_PORT: String(port) });
    expect(await started.ended).toBe(1);
    other.close();
    expect(started.said()).toContain(`Port ${port} is taken by another program; stop that one, or set FOLVEX_PORT`);
    expect(started.said()).not.toMatch(/^\s+at /m);
  });

  it('says in one sentence that it may not write to its data folder', async () => {
    const started = start({ FOLVEX_DATA: '/dev/null/folvex', FOLVEX_PORT: String(await freePort()) });
    expect(await started.ended).toBe(1);
    expect(started.said()).toContain('Folvex cannot write to the folder /dev/null/folvex');
    expect(started.said()).not.toMatch(/^\s+at /m);
  });

  it('uses the database that it is given', async () => {
    const started = start({
      DATABASE_URL: 'postgres://nobody:x@127.0.0.1:1/none',
      FOLVEX_DATA: data,
      FOLVEX_PORT: String(await freePort()),
    });
    expect(await started.ended).toBe(1);
    expect(started.said()).toContain('The server could not start');
    expect(started.said()).not.toMatch(/^\s+at /m);
  });
});
