import { execFileSync } from 'node:child_process';
import sharp from 'sharp';
import type { EditAnswer, ProjectInfo, RunInfo } from '@folvex/contract';
import { expect, test } from './folvex';

/** Times as large as poppler draws a page before it is thinned down: at its own size it draws every line a whole pixel wide. */
const FINER = 4;
/** Grey values that differ by a third of the range differ to the eye. */
const TELLING = 85;

test('the screen shows every sheet of the demo as poppler shows it published', async ({ folvex: page, address }) => {
  // So large that the whole sheet is seen, and so painted, at a size at which its lettering can be told.
  await page.setViewportSize({ width: 2100, height: 1500 });
  const get = async <T>(path: string): Promise<T> =>
    (await (await page.request.get(`${address}/api${path}`)).json()) as T;
  const post = async <T>(path: string, data: object = {}): Promise<T> =>
    (await (await page.request.post(`${address}/api${path}`, { data })).json()) as T;
  const [project] = await get<{ id: string }[]>('/projects');
  const at = `/projects/${project!.id}`;
  const { sheets } = await get<ProjectInfo>(at);
  const { pack: made } = await post<EditAnswer>(`${at}/packages`, { name: 'Every sheet' });
  const pack = made!.id;
  const order = sheets.map(({ id }) => id);
  await page.request.patch(`${address}/api${at}/packages/${pack}`, {
    data: { order, bundling: 'one', recipe: 'colour' },
  });
  const run = await post<RunInfo>(`${at}/packages/${pack}/runs`);
  const state = async (): Promise<string | undefined> =>
    (await get<ProjectInfo>(at)).runs.find(({ id }) => id === run.id)?.state;
  await expect.poll(state).toBe('done');
  const pdf = await (await page.request.get(`${address}/api/runs/${run.id}/files/0`)).body();

  for (const [i, { id, number }] of sheets.entries()) {
    await page.goto(`${address}${at}/sheets/${id}`);
    await page.getByRole('radio', { name: 'As printed' }).click();
    const canvas = page.locator('fx-sheet-picture canvas.painted');
    const shown = page.locator('fx-sheet-place .sheet');
    await expect
      .poll(async () =>
        Math.abs((await canvas.evaluate((one: HTMLCanvasElement) => one.width)) - (await shown.boundingBox())!.width),
      )
      .toBeLessThanOrEqual(1);
    const url = await canvas.evaluate((one: HTMLCanvasElement) => {
      const copy = document.createElement('canvas');
      [copy.width, copy.height] = [one.width, one.height];
      copy.getContext('2d')!.drawImage(one, 0, 0);
      return copy.toDataURL();
    });
    const painted = Buffer.from(url.split(',')[1]!, 'base64');
    const { width: across, height: down } = (await sharp(painted).metadata()) as { width: number; height: number };
    const size = ['-scale-to-x', String(across * FINER), '-scale-to-y', String(down * FINER)];
    const printed = execFileSync('pdftoppm', ['-png', '-f', String(i + 1), '-l', String(i + 1), ...size, '-'], {
      input: pdf,
      maxBuffer: 1 << 28,
    });
    const { differing, inked } = await compared(painted, printed, across, down);
    expect(inked, `${number} has something on it`).toBeGreaterThan(0.005);
    expect(differing, `${number} differs`).toBeLessThan(0.005);
  }
});

/** Shares of the pixels of two pictures that tell apart, and that are not white, softened a little as the eye does. */
async function compared(
  painted: Buffer,
  printed: Buffer,
  width: number,
  height: number,
): Promise<{ differing: number; inked: number }> {
  const pixels = (picture: Buffer): Promise<Buffer> =>
    sharp(picture).flatten({ background: '#ffffff' }).resize(width, height).greyscale().blur(1).raw().toBuffer();
  const [a, b] = await Promise.all([pixels(painted), pixels(printed)]);
  let [differing, inked] = [0, 0];
  for (let i = 0; i < a.length; i++) {
    if (Math.abs(a[i]! - b[i]!) > TELLING) differing++;
    if (b[i]! < 230) inked++;
  }
  return { differing: differing / a.length, inked: inked / a.length };
}
