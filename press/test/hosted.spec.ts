import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createHostedPress, type Press } from '../src/index';
import { ownFolder } from './support/published';

const FILES = {
  host: join(process.cwd(), 'dist', 'press-host.mjs'),
  thread: fileURLToPath(new URL('./support/unruly-thread.mjs', import.meta.url)),
};
const folder = ownFolder();
const presses: Press[] = [];
const crashes: string[][] = [];
afterAll(() => Promise.all(presses.map((press) => press.close())));

function hosted(threads: number, memoryMb = 1024): Press {
  const press = createHostedPress(FILES, threads, {
    limits: { memoryMb, milliseconds: 600_000 },
    onCrash: (reason, tasks) => crashes.push([reason, ...tasks]),
  });
  presses.push(press);
  return press;
}
const tried = join(folder, 'tried');
const inspect = (press: Press, name: string, signal?: AbortSignal) =>
  press.inspect({ name, path: tried, hash: '' }, signal);
const tries = (name: string): number =>
  existsSync(tried)
    ? readFileSync(tried, 'utf8')
        .split('\n')
        .filter((line) => line === name).length
    : 0;

it('what a task answers comes back as it is, bytes too', async () => {
  const answer = await inspect(hosted(1), 'plain');
  expect(answer).toEqual({ ok: true, value: { name: 'plain', bytes: new Uint8Array([1, 2, 3]) } });
});

it('a file that crashes its reader takes nothing down with it, and is not tried again', async () => {
  const press = hosted(2);
  const [crash, ...others] = await Promise.all(['crash', 'a', 'b', 'c', 'd'].map((name) => inspect(press, name)));
  expect(crash).toMatchObject({ ok: false, problem: { code: 'press.crashed' } });
  expect(!crash!.ok && crash!.problem.sentence).toMatch(
    /^Reading crash crashed the process that worked on it, twice, and is/,
  );
  expect(others.every(({ ok }) => ok)).toBe(true);
  expect(crashes.map(([reason]) => reason)).toEqual(['SIGSEGV', 'SIGSEGV']);
  expect(crashes[1]).toEqual(['SIGSEGV', 'Reading crash']);
  expect(tries('crash')).toBe(2);
  expect(await inspect(press, 'crash')).toEqual(crash);
  expect(tries('crash')).toBe(2);
  expect((await inspect(press, 'e')).ok).toBe(true);
});

it('a file that takes memory outside of the objects of its thread is stopped', async () => {
  const press = hosted(1, 200);
  const answer = await inspect(press, 'fill 4000');
  expect(answer).toMatchObject({ ok: false, problem: { code: 'press.memory' } });
  expect(!answer.ok && answer.problem.sentence).toContain('took more than the 200 MB of memory');
  expect((await inspect(press, 'after')).ok).toBe(true);
});

it('a signal ends its task in the middle of its work', async () => {
  const press = hosted(1);
  const ending = new AbortController();
  const hanging = inspect(press, 'hang', ending.signal);
  while (tries('hang') === 0) await new Promise((resolve) => setImmediate(resolve));
  ending.abort(new Error('cancelled'));
  await expect(hanging).rejects.toThrow('cancelled');
  // The only thread is free again.
  expect((await inspect(press, 'after all')).ok).toBe(true);
  await expect(inspect(press, 'never begun', ending.signal)).rejects.toThrow('cancelled');
  expect(tries('never begun')).toBe(0);
});

it('errors come back with their messages', async () => {
  await expect(inspect(hosted(1), 'throw')).rejects.toThrow('ENOSPC: no space left');
});

it('what is under way when the press closes is rejected', async () => {
  const press = hosted(1);
  const under = inspect(press, 'hang');
  while (tries('hang') < 2) await new Promise((resolve) => setImmediate(resolve));
  const rejected = expect(under).rejects.toThrow('ended');
  await press.close();
  await rejected;
});
