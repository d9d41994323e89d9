import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { ProjectInfo } from '@folvex/contract';
import { coloursOf, demoAddress, expect, go, greyCells, names, strip, test } from './folvex';

test.describe.configure({ mode: 'serial' });

test('the wall shows every sheet as a real picture, at one scale', async ({ folvex: page }) => {
  await go(page, 'Sheets');
  const tiles = page.getByRole('option');
  await expect(tiles).toHaveCount(10);
  for (let i = 0; i < 10; i++) {
    await tiles.nth(i).scrollIntoViewIfNeeded();
    await expect(tiles.nth(i).locator('canvas.painted')).toHaveCount(1);
  }
  expect(await coloursOf(page, 'fx-sheet-tile canvas')).toBeGreaterThan(10);
  const width = async (name: RegExp) => (await tiles.filter({ hasText: name }).locator('.paper').boundingBox())!.width;
  // A1 is twice as wide as A3 (ISO 216), within the rounding to pixels.
  expect((await width(/A-501/)) / (await width(/A-502/))).toBeCloseTo(2, 1);
});

test('sheets chosen by keyboard go into a package', async ({ folvex: page }) => {
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-102/ }).click();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByRole('heading', { name: '2 sheets' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: '2 sheets' })).toHaveCount(0);
  await page.getByRole('option', { name: /A-111/ }).click();
  await page.getByRole('button', { name: 'Add A-111 at the end' }).click();
  await go(page, 'Package');
  await expect.poll(async () => (await strip(page)).at(-1)).toBe('A-111');
});

test('pages are moved by keys and by hand, and stay so', async ({ folvex: page, address }) => {
  await go(page, 'Package');
  await expect(page.locator('fx-page-strip .page')).toHaveCount(10);
  const first = page.locator('fx-page-strip .page').first();
  await first.focus();
  // A held key repeats before the browser renders.
  await page.evaluate(() => {
    for (let press = 0; press < 2; press++) {
      const key = { key: 'ArrowRight', shiftKey: true, bubbles: true, cancelable: true };
      document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', key));
    }
  });
  await expect.poll(async () => (await strip(page)).slice(0, 3)).toEqual(['A-101', 'A-401', 'A-001']);
  await expect(page.locator('fx-page-strip .page').nth(2)).toBeFocused();
  // By hand: the first page behind the second.
  const from = (await page.locator('fx-page-strip .page').nth(0).boundingBox())!;
  const to = (await page.locator('fx-page-strip .page').nth(1).boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + 40);
  await page.mouse.down();
  await page.mouse.move(from.x + from.width / 2 + 20, from.y + 40, { steps: 4 });
  await page.mouse.move(to.x + to.width * 0.8, to.y + 40, { steps: 12 });
  await page.mouse.up();
  await expect
    .poll(() => strip(page))
    .toEqual(['A-401', 'A-101', 'A-001', 'A-102', 'A-201', 'A-202', 'A-301', 'A-501', 'A-502', 'A-111']);
  await page.locator('fx-page-strip .page').last().focus();
  const saved = page.waitForResponse((response) => {
    const patch = response.request().method() === 'PATCH';
    const sent = patch ? (response.request().postDataJSON() as { order?: string[] }) : undefined;
    return sent?.order !== undefined && !sent.order.includes('a111') && response.ok();
  });
  await page.keyboard.press('Delete');
  await saved;
  await page.goto(`${await demoAddress(page, address)}/packages`);
  await expect
    .poll(() => strip(page))
    .toEqual(['A-401', 'A-101', 'A-001', 'A-102', 'A-201', 'A-202', 'A-301', 'A-501', 'A-502']);
});

test('names are seen as they are typed, and a blank or a clash stops', async ({ folvex: page }) => {
  await go(page, 'Package');
  await page.getByRole('radio', { name: 'A file per sheet' }).click();
  const rule = page.getByLabel('File name');
  await rule.fill('[page > pad 2] [sheet.title > upper]');
  await expect.poll(() => names(page)).toContain('02 GROUND FLOOR PLAN.pdf');
  const publish = page.getByRole('button', { name: /^Publish/ });
  await expect(publish).toHaveText('Publish 9 files, 9 pages');
  await rule.fill('[group.name]');
  await expect(page.getByText(/would both be written as "Site and plans.pdf"/).first()).toBeVisible();
  await expect(publish).toBeDisabled();
  await rule.fill('[sheet.number');
  await expect(page.getByText('is never closed; add "]" after it.').first()).toBeVisible();
  await rule.fill('[sheet.number] [project.client > cut 0]');
  await expect(page.getByText('[project.client] is blank for A-401').first()).toBeVisible();
  await expect(publish).toBeDisabled();
  await rule.fill('');
  await page.getByRole('button', { name: 'Field' }).first().click();
  const saved = page.waitForResponse((response) =>
    Boolean(response.request().postData()?.includes('"file":"[sheet.number]"') && response.ok()),
  );
  await page.getByRole('menuitem', { name: '[sheet.number]' }).click();
  await expect.poll(() => names(page)).toContain('A-401.pdf');
  await expect(publish).toBeEnabled();
  await saved;
});

test('an edit made just before the page is left is not lost', async ({ folvex: page, address }) => {
  await go(page, 'Package');
  const rule = page.getByLabel('Folder (none when empty)');
  await rule.fill('[group.name]');
  await rule.fill('[project.number]');
  await page.goto(`${await demoAddress(page, address)}/packages`);
  await expect(rule).toHaveText('[project.number]');
  await rule.fill('');
  await page.reload();
  await expect(rule).toHaveText('');
});

test('publishing goes on behind, and its files open on the light table', async ({ folvex: page }) => {
  await go(page, 'Package');
  await page.getByRole('button', { name: 'Publish 9 files, 9 pages' }).click();
  await go(page, 'Sheets');
  await expect(page.getByText('Permit set is published: 9 files, 9 pages.')).toBeVisible();
  await page.getByRole('button', { name: 'Open on the light table' }).click();
  await page.getByRole('button', { name: /^A-101\.pdf/ }).click();
  await expect(page.locator('fx-page-viewer .bar')).toContainText('A2 · 594 × 420 mm');
  await expect(page.locator('.sheet[data-painted="1"]')).toBeVisible();
  const before = await coloursOf(page, 'fx-page-viewer canvas');
  expect(before).toBeGreaterThan(10);

  await page.getByLabel('Search the text').fill('waiting');
  await expect(page.getByText('1 of 1 place')).toBeVisible();
  await expect(page.locator('.hit.current')).toBeVisible();
  await page.getByLabel('Search the text').fill('swimming pool');
  await expect(page.getByText('not in this file')).toBeVisible();

  for (const group of ['Sheet', 'ground-floor.dxf'])
    await page.getByRole('checkbox', { name: group, exact: true }).uncheck();
  await expect.poll(() => coloursOf(page, 'fx-page-viewer canvas')).toBe(1);
  await page.getByRole('button', { name: 'Show all again' }).click();
  await expect.poll(() => coloursOf(page, 'fx-page-viewer canvas')).toBe(before);
});

test('files are downloaded as they were written, one or all', async ({ folvex: page }) => {
  await go(page, 'Light table');
  const one = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download A-101.pdf' }).click();
  const file = await one;
  expect(file.suggestedFilename()).toBe('A-101.pdf');
  expect(execFileSync('pdftotext', [await file.path(), '-'], { encoding: 'utf8' })).toContain('Waiting room');
  const all = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download all as ZIP' }).click();
  const zip = await all;
  expect(zip.suggestedFilename()).toBe('Permit set.zip');
  expect(
    readFileSync(await zip.path())
      .subarray(0, 2)
      .toString(),
  ).toBe('PK');
});

test('the wall shows what is printed: its picture and that of the PDF agree', async ({ folvex: page, address }) => {
  const [project] = (await (await page.request.get(`${address}/api/projects`)).json()) as { id: string }[];
  const { runs } = (await (await page.request.get(`${address}/api/projects/${project!.id}`)).json()) as ProjectInfo;
  const index = runs[0]!.files.findIndex(({ path }) => path === 'A-101.pdf');
  const pdf = await (await page.request.get(`${address}/api/runs/${runs[0]!.id}/files/${index}`)).body();
  await go(page, 'Sheets');
  for (let i = 0; i < 8; i++) await page.keyboard.press('+');
  const canvas = page.getByRole('option', { name: /A-101/ }).locator('canvas.painted');
  await canvas.scrollIntoViewIfNeeded();
  // 1.2 pixels to a millimetre at the largest: 594 mm are 713 pixels.
  await expect.poll(() => canvas.evaluate((element: HTMLCanvasElement) => element.width)).toBe(713);
  const shown = await greyCells(
    page,
    await canvas.evaluate((element: HTMLCanvasElement) => {
      const copy = document.createElement('canvas');
      [copy.width, copy.height] = [element.width, element.height];
      copy.getContext('2d')!.drawImage(element, 0, 0);
      return copy.toDataURL();
    }),
  );
  const png = execFileSync('pdftoppm', ['-png', '-scale-to-x', '2852', '-scale-to-y', '2016', '-'], {
    input: pdf,
    maxBuffer: 1 << 26,
  });
  const printed = await greyCells(page, `data:image/png;base64,${png.toString('base64')}`);
  expect(shown).toHaveLength(printed.length);
  // Four times as large and thinned down again: at its own size poppler draws every line a whole pixel wide.
  const differences = shown.map((grey, i) => Math.abs(grey - printed[i]!));
  const ink = printed.filter((grey) => grey < 250).length;
  expect(ink).toBeGreaterThan(printed.length / 5);
  expect(differences.reduce((sum, difference) => sum + difference, 0) / differences.length).toBeLessThan(4);
  // No cell that one of them leaves white is dark in the other. (On screen no line is thinner than 0.35 pixels.)
  expect(differences.filter((difference) => difference > 90)).toEqual([]);
});

test('every place is reached by its key, and the keys are listed', async ({ folvex: page }) => {
  for (const [key, heading] of [
    ['1', 'Drawings'],
    ['2', 'Sheets'],
    ['3', 'Pens'],
    ['4', 'Package'],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.getByRole('heading', { name: heading, level: 1 })).toBeAttached();
  }
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('with Shift move the page there');
});
