import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import type { ProjectInfo } from '@folvex/contract';
import { choose, demoAddress, expect, go, test } from './folvex';

const MM_PER_POINT = 25.4 / 72;

/** Widths of all lines of a PDF as MuPDF traces them, mm, rounded to the hundredth. */
function widthsIn(pdf: Buffer): Set<number> {
  const folder = mkdtempSync(join(tmpdir(), 'folvex-pens-'));
  try {
    const file = join(folder, 'set.pdf');
    writeFileSync(file, pdf);
    const trace = execFileSync('mutool', ['draw', '-F', 'trace', '-o', '-', file], {
      encoding: 'utf8',
      maxBuffer: 1 << 28,
    });
    return new Set(
      [...trace.matchAll(/<stroke_path linewidth="([^"]+)"[^>]*transform="([^ "]+)/g)].map(
        ([, width, scale]) => Math.round(Number(width) * Number(scale) * MM_PER_POINT * 100) / 100,
      ),
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

test('a layer is hung on another rung of the ladder, and prints at that weight', async ({ folvex: page, address }) => {
  await page.getByRole('navigation').getByRole('link', { name: 'Pens' }).click();
  await choose(page, 'On the sheet', 'A-001 Site plan');
  const trees = page.getByRole('button', { name: /^L-TREE, / });
  await expect(trees).toHaveAttribute('aria-label', 'L-TREE, 140 lines, at 0.18 mm');
  await expect(page.locator('fx-pen-preview .piece')).not.toHaveAttribute('data-painted', '0');
  await trees.click();
  await expect(page.getByText('A change touches 1 sheet: A-001.')).toBeVisible();
  // A shipped schedule stays as it is: a copy is changed.
  for (let i = 0; i < 6; i++) {
    const at = (await trees.getAttribute('aria-label'))!;
    await trees.press('ArrowUp');
    await expect(trees).not.toHaveAttribute('aria-label', at);
  }
  await expect(trees).toHaveAttribute('aria-label', 'L-TREE, 140 lines, at 1.4 mm');
  await expect(page.getByRole('combobox', { name: 'Pen schedule' })).toContainText('ISO five weights, ours');
  await expect(page.getByRole('complementary')).toContainText('L-TREE → 1.4');
  await page.getByRole('radio', { name: 'Rules' }).click();
  await expect(page.getByLabel('Layer like of L-TREE')).toHaveValue('L-TREE');

  await page.getByRole('navigation').getByRole('link', { name: 'Settings' }).click();
  await page.getByRole('navigation', { name: 'Settings' }).getByRole('button', { name: 'Recipes' }).click();
  await page.getByRole('button', { name: /^Full colour, layers/ }).click();
  await choose(page, 'Pens', 'ISO five weights, ours');
  await expect(page.getByText('Prints in full colour, with the pens ISO five weights, ours')).toBeVisible();

  await go(page, 'Package');
  await expect(page.getByText('with the pens ISO five weights, ours')).toBeVisible();
  await page.getByRole('button', { name: /^Publish 1 file, 9 pages/ }).click();
  await page.getByRole('link', { name: 'Look at it', exact: true }).click();
  const [project] = (await (await page.request.get(`${address}/api/projects`)).json()) as { id: string }[];
  const { runs } = (await (await page.request.get(`${address}/api/projects/${project!.id}`)).json()) as ProjectInfo;
  const pdf = await (await page.request.get(`${address}/api/runs/${runs[0]!.id}/files/0`)).body();
  const widths = widthsIn(pdf);
  expect(widths).toContain(1.4);
  // Everything else that is drawn prints at one of the five, besides what the sheets themselves add.
  for (const width of widths) expect([0.13, 0.18, 0.25, 0.35, 0.5, 0.7, 1.4]).toContain(width);
});

test('a schedule is saved as CSV and read back', async ({ folvex: page }) => {
  await page.getByRole('navigation').getByRole('link', { name: 'Pens' }).click();
  await choose(page, 'Pen schedule', 'Half-tone background');
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'File' }).click();
  await page.getByRole('menuitem', { name: 'Save as CSV' }).click();
  const saved = await saving;
  expect(saved.suggestedFilename()).toBe('Half-tone background.csv');
  const text = readFileSync((await saved.path())!, 'utf8');
  expect(text).toContain('*EXST*');
  const read = page.getByLabel('Pen schedule file');
  await read.setInputFiles({
    name: 'office.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('layer,weight\nA-WALL,thick\n'),
  });
  await expect(page.locator('fx-notice')).toContainText('office.csv: Row 2: weight is a number, not "thick"');
  await read.setInputFiles({ name: 'office.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await expect(page.getByRole('combobox', { name: 'Pen schedule' })).toContainText('office');
  await page.getByRole('radio', { name: 'Rules' }).click();
  await expect(page.getByLabel('Layer like of *EXST*')).toBeVisible();
});

test('what pictures take at each resolution is told and drawn, the choice of the recipe marked', async ({
  folvex: page,
}) => {
  await go(page, 'Package');
  await page.getByText('File size by picture resolution').click();
  await expect(page.getByText('No sheet of this package has pictures')).toBeVisible();
  await go(page, 'Gather');
  const pixels = Buffer.alloc(600 * 400 * 3, 128).map((_, i) => (i * 31) % 251);
  const photo = await sharp(pixels, { raw: { width: 600, height: 400, channels: 3 } })
    .jpeg()
    .toBuffer();
  await page.getByLabel('Drawing files').setInputFiles([{ name: 'quay.jpg', mimeType: 'image/jpeg', buffer: photo }]);
  await expect(page.locator('fx-drawing-card').filter({ hasText: 'quay.jpg' })).toHaveCount(1);
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-202/ }).dblclick();
  await page.getByRole('button', { name: 'Picture', exact: true }).click();
  await choose(page, 'Drawing or picture', 'quay.jpg');
  await expect(page.getByRole('button', { name: /^Undo notes of A-202/ })).toBeEnabled();
  await page.getByRole('navigation').getByRole('link', { name: 'Settings' }).click();
  await page.getByRole('navigation', { name: 'Settings' }).getByRole('button', { name: 'Recipes' }).click();
  await page.getByRole('button', { name: /^Full colour, layers/ }).click();
  const dpi = page.getByLabel('Maximum resolution, dpi');
  await dpi.fill('50');
  await dpi.press('Enter');
  await expect(page.getByText('a whole number from 72 to 1200')).toBeVisible();
  await dpi.fill('100');
  await dpi.press('Enter');
  await expect(page.getByText('pictures of at most 100 dpi')).toBeVisible();
  await go(page, 'Package');
  await page.getByText('File size by picture resolution').click();
  // 600 × 400 pixels fitted into 60 × 30 mm, 45 mm wide: 339 dpi. The square of 100 over that is 0.087.
  const most = Math.round((photo.length * (100 / (600 / (45 / 25.4))) ** 2) / 1000);
  await expect(page.getByText(`About ${most} kB of pictures at 100 dpi.`)).toBeVisible();
  await expect(page.locator('fx-size-chart [role=img] svg')).toContainText('100 dpi');
});

test('a run is protected by a password, which the light table asks for', async ({ folvex: page, address }) => {
  const runs = async (): Promise<ProjectInfo['runs']> => {
    const [project] = (await (await page.request.get(`${address}/api/projects`)).json()) as { id: string }[];
    return ((await (await page.request.get(`${address}/api/projects/${project!.id}`)).json()) as ProjectInfo).runs;
  };
  const before = (await runs()).length;
  await go(page, 'Package');
  await page.getByText('Protect the files of the next run').click();
  await page.getByLabel('Password to open').fill('grey gull');
  await page.getByRole('button', { name: /^Publish 1 file/ }).click();
  // Runs of other tests may be there to be looked at already.
  await expect.poll(async () => (await runs()).filter(({ state }) => state === 'done').length).toBe(before + 1);
  const latest = (await runs()).reduce((a, b) => (a.createdAt > b.createdAt ? a : b));
  await page.goto(`${await demoAddress(page, address)}/runs/${latest.id}`);
  const password = page.getByLabel('This file is protected. Enter its password');
  await password.fill('white gull');
  await password.press('Enter');
  await expect(page.getByText('This is not the password of the file.')).toBeVisible();
  // The field is still the one that was typed in.
  await expect(password).toBeFocused();
  await password.fill('grey gull');
  await password.press('Enter');
  await expect(page.locator('fx-page-viewer .bar')).toContainText('1 / 9');
});
