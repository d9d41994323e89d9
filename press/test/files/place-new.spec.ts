import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { link } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { placeNew } from '../../src/files/place-new';

const folder = mkdtempSync(join(tmpdir(), 'folvex-place-new-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const noLinks =
  (code: string): typeof link =>
  () =>
    Promise.reject(Object.assign(new Error(code), { code }));

it.each([
  ['with links', link],
  ['without links', noLinks('EPERM')],
])('gives a finished file a name that is free, and no other, on disks %s', async (_, linked) => {
  const [finished, free, taken] = ['finished', 'free.pdf', 'taken.pdf'].map((name) => join(folder, name)) as [
    string,
    string,
    string,
  ];
  for (const name of [free, taken]) rmSync(name, { force: true });
  writeFileSync(finished, 'new');
  writeFileSync(taken, 'old');
  await expect(placeNew(finished, taken, linked)).rejects.toMatchObject({ code: 'EEXIST' });
  expect(readFileSync(taken, 'utf8')).toBe('old');
  await placeNew(finished, free, linked);
  expect(readFileSync(free, 'utf8')).toBe('new');
});

it('tells what else goes wrong', async () => {
  const finished = join(folder, 'another');
  writeFileSync(finished, 'new');
  await expect(placeNew(finished, join(folder, 'b.pdf'), noLinks('ENOSPC'))).rejects.toMatchObject({ code: 'ENOSPC' });
});
