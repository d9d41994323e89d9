import { mkdtempSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { choose, drawing, expect, go, names, nineteenFrames, test } from './folvex';

const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'application/octet-stream', buffer });

test('a drafter uploads a drawing, makes a sheet from it and publishes that', async ({ folvex: page }) => {
  await go(page, 'Gather');
  await page.getByLabel('Drawing files').setInputFiles([file('boat-shed.dxf', drawing())]);
  const card = page.locator('fx-drawing-card').filter({ hasText: 'boat-shed.dxf' });
  await expect(card).toContainText('unknown without a unit');
  await card.getByRole('button', { name: 'mm', exact: true }).click();
  // Twelve lines a metre apart, 8 m long, with a note above.
  await expect(card).toContainText('11.0 × 9.0 m');
  await card.getByRole('button', { name: 'Create sheet' }).click();
  const panel = page.locator('fx-new-sheet-panel');
  await expect(panel.getByLabel('Title')).toHaveValue('Boat shed');
  await panel.getByLabel('Number').fill('A-001');
  await expect(panel).toContainText('Another sheet has this number.');
  await panel.getByLabel('Number').fill('A-901');
  await choose(panel, 'Paper', /^A3 /);
  await panel.getByLabel('Scale').fill('1:20');
  await expect(panel).toContainText('but the sheet has room for 370 × 203 mm');
  await panel.getByRole('button', { name: 'Use 1:50, the largest that fits' }).click();
  await expect(panel).toContainText('At 1:50 the drawing measures 220 × ');
  await panel.getByRole('button', { name: 'Create sheet' }).click();
  await expect(panel).toContainText('Sheet A-901 is on the wall');

  await go(page, 'Package');
  await page.getByRole('button', { name: 'New package' }).click();
  await page.getByLabel('Name of the new package').fill('Boats');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add the first sheets' }).click();
  await page.getByRole('button', { name: 'Add A-901' }).click();
  await expect.poll(() => names(page)).toEqual(['2617 Boats.pdf']);
  await page.getByRole('button', { name: 'Publish 1 file, 1 page' }).click();
  await page.getByRole('link', { name: 'Look at it', exact: true }).click();
  await expect(page.locator('fx-page-viewer .bar')).toContainText('A3 · 420 × 297 mm');
  await page.getByLabel('Search the text').fill('boat shed');
  await expect(page.getByText(/of 2 places/)).toBeVisible();
});

test('nineteen tables in one drawing become nineteen sheets in one step', async ({ folvex: page }) => {
  await go(page, 'Gather');
  await page.getByLabel('Drawing files').setInputFiles([file('tables.dxf', nineteenFrames())]);
  const card = page.locator('fx-drawing-card').filter({ hasText: 'tables.dxf' });
  await card.getByRole('button', { name: 'Find frames' }).click();
  const panel = page.locator('fx-frames-panel');
  await expect(panel).toContainText('X-FRAME · 19 frames');
  // The first number is one from which on nineteen are free.
  await expect(panel.getByLabel('First number')).toHaveValue('A-112');
  await panel.getByLabel('First number').fill('A-101');
  await expect(panel).toContainText('Sheet A-101 already exists.');
  await panel.getByLabel('First number').fill('T-01');
  await expect(panel.locator('.planned li')).toHaveCount(19);
  await expect(panel.locator('.planned li').first()).toHaveText('T-01 A3, landscape, 1:50');
  await choose(page, 'Paper and scale', /^all at 1:25/);
  await expect(panel.locator('.planned li').first()).toHaveText('T-01 A1, landscape, 1:25');
  await choose(page, 'Paper and scale', /^each as it fits best: all fit/);
  // A click on a frame leaves it out.
  await panel.locator('fx-frames-preview g').nth(4).click();
  await expect(panel.getByRole('button', { name: 'Create 18 sheets' })).toBeVisible();
  await panel.locator('.planned li').nth(4).getByRole('checkbox').check();

  await panel.getByRole('button', { name: 'Create 19 sheets' }).click();
  await expect(card).toContainText('19 sheets');
  // One step takes them back, and they can be made again.
  await expect(page.locator('fx-notice')).toContainText('19 sheets created.');
  await page.locator('fx-notice').getByRole('button', { name: 'Undo' }).click();
  await expect(card).toContainText('no sheet yet');
  await panel.getByRole('button', { name: 'Create 19 sheets' }).click();
  await expect(card).toContainText('19 sheets');
  await go(page, 'Sheets');
  await expect(page.getByRole('option', { name: /T-\d\d/ })).toHaveCount(19);
  const last = page.getByRole('option', { name: /T-19/ });
  await last.scrollIntoViewIfNeeded();
  await expect(last.locator('canvas.painted')).toHaveCount(1);
  await expect(last).toContainText('A3 · 1:50');
});

test('files dropped anywhere on the page come in', async ({ folvex: page }) => {
  await go(page, 'Gather');
  const texts = ['one', 'two'].map((word) => drawing(4, word).toString());
  const files = await page.evaluateHandle((contents) => {
    const transfer = new DataTransfer();
    ['one.dxf', 'two.dxf'].forEach((name, i) => transfer.items.add(new File([contents[i]!], name)));
    return transfer;
  }, texts);
  await page.dispatchEvent('fx-gather .place', 'dragover', { dataTransfer: files });
  await expect(page.getByText('Drop the drawings to read them')).toBeVisible();
  await page.dispatchEvent('fx-gather .place', 'drop', { dataTransfer: files });
  for (const name of ['one.dxf', 'two.dxf']) await expect(page.getByRole('heading', { name })).toBeVisible();
  await expect(page.getByText('Drop the drawings to read them')).toBeHidden();
});

test('what cannot be read gets one sentence, and the rest comes in', async ({ folvex: page }) => {
  await go(page, 'Gather');
  await expect(page.locator('fx-drawing-card').first()).toBeVisible();
  const before = await page.locator('fx-drawing-card').count();
  const whole = drawing(4, 'whole');
  await page
    .getByLabel('Drawing files')
    .setInputFiles([
      file('empty.dxf', Buffer.alloc(0)),
      file('picture.dxf', Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10])),
      file('cut.dxf', whole.subarray(0, whole.length - 40)),
      file('good.dxf', whole),
    ]);
  await expect(page.getByText('empty.dxf is empty; save the drawing again and add that file.')).toBeVisible();
  await expect(page.getByText('picture.dxf cannot be read as a PNG picture')).toBeVisible();
  await expect(page.locator('fx-drawing-card')).toHaveCount(before + 2);
  const cut = page.locator('fx-drawing-card').filter({ hasText: 'cut.dxf' });
  await cut.getByRole('button', { name: '1 warning' }).click();
  await expect(cut).toContainText(/breaks off at line \d+; what came before is shown/);
  await page.getByRole('button', { name: 'Dismiss' }).first().click();
  await page.getByRole('button', { name: 'Dismiss' }).first().click();
  await expect(page.locator('fx-incoming .line')).toHaveCount(0);
});

test('a file of 300 MB is refused with a sentence while the page stays alive', async ({ folvex: page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'folvex-huge-'));
  try {
    const huge = join(folder, 'huge.dxf');
    writeFileSync(huge, '0\nSECTION\n');
    truncateSync(huge, 300 * 1024 * 1024);
    await go(page, 'Gather');
    await page.getByLabel('Drawing files').setInputFiles(huge);
    await expect(page.getByText('huge.dxf is larger than 250 MB and was not taken')).toBeVisible();
    await go(page, 'Sheets');
    await expect(page.getByRole('option').first()).toBeVisible();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('while the server is away, a request says so and nothing typed is lost', async ({ folvex: page }) => {
  await go(page, 'Package');
  const rule = page.getByLabel('File name').first();
  await expect(rule).toBeVisible();
  await page.context().setOffline(true);
  await rule.fill('[project.name] offline');
  // Two at once while one notice takes the place of another.
  await expect(page.getByText('The server cannot be reached; what you typed is still here.').first()).toBeVisible();
  await expect(rule).toHaveText('[project.name] offline');
  await page.context().setOffline(false);
  const saved = page.waitForResponse((response) => response.request().method() === 'PATCH' && response.ok());
  await rule.fill('[project.name] online');
  await saved;
});
