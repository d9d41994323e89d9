import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
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
  }, 120_000);

  it('says in one sentence that its port is taken', async () => {
    const other = createServer();
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve));
    const { port } = other.address() as { port: number };
    const started = start({ FOLVEX_DATA: data, FOLVEX_PORT: String(port) });
    expect(await started.ended).toBe(1);
    other.close();
    expect(started.said()).toContain(`Port ${port} is taken by another program; stop that one, or set FOLVEX_PORT`);
    expect(started.said()).not.toMatch(/^\s+at /m);
  }, 60_000);

  it('says in one sentence that it may not write where its data should lie', async () => {
    const started = start({ FOLVEX_DATA: '/dev/null/folvex', FOLVEX_PORT: String(await freePort()) });
    expect(await started.ended).toBe(1);
    expect(started.said()).toContain('Folvex cannot make the folder /dev/null/folvex');
    expect(started.said()).not.toMatch(/^\s+at /m);
  }, 60_000);

  it('uses the database that it is given', async () => {
    const started = start({
      DATABASE_URL: 'postgres://nobody:x@127.0.0.1:1/none',
      FOLVEX_DATA: data,
      FOLVEX_PORT: String(await freePort()),
    });
    expect(await started.ended).toBe(1);
    expect(started.said()).toContain('The server could not start');
    expect(started.said()).not.toMatch(/^\s+at /m);
  }, 60_000);
});
