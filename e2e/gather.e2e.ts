import { zipSync } from 'fflate';
import { choose as pick, chooseSheet, drawing, expect, go, test } from './folvex';
import type { Page } from '@playwright/test';

interface Dropped {
  name: string;
  text: string;
}

/** Drops files on the page all at once, as from a file manager. */
async function drop(page: Page, dropped: readonly Dropped[]): Promise<void> {
  const files = await page.evaluateHandle((list) => {
    const transfer = new DataTransfer();
    for (const { name, text } of list) transfer.items.add(new File([text], name));
    return transfer;
  }, dropped);
  await page.dispatchEvent('fx-gather .place', 'drop', { dataTransfer: files });
}

test('forty files dropped at once come in, each told by a card of its own', async ({ folvex: page }) => {
  await go(page, 'Gather');
  await expect(page.locator('fx-drawing-card').first()).toBeVisible();
  const before = await page.locator('fx-drawing-card').count();
  const dropped = Array.from({ length: 40 }, (_, i): Dropped => {
    const name = `mooring-${String(i + 1).padStart(2, '0')}`;
    if (i % 4 !== 3) return { name: `${name}.dxf`, text: drawing(4, name).toString() };
    const text = `<svg xmlns="http://www.w3.org/2000/svg" width="${100 + i}mm" height="50mm"><rect width="99" height="40"/></svg>`;
    return { name: `${name}.svg`, text };
  });
  await drop(page, dropped);
  await expect(page.getByText(/files on the way in/)).toBeVisible();
  await expect(page.locator('fx-drawing-card')).toHaveCount(before + 40);
  await expect(page.locator('fx-incoming .line')).toHaveCount(0);
  const last = page.locator('fx-drawing-card').filter({ hasText: 'mooring-40.svg' });
  await expect(last).toContainText('SVG');
  await expect(last).toContainText('139 × 50 mm');
});

test('an archive is opened, files that are not drawings are named, and drawings already here are recognised', async ({
  folvex: page,
}) => {
  await go(page, 'Gather');
  const first = drawing(4, 'Net store');
  const archive = zipSync({
    'set/net-store.dxf': new Uint8Array(first),
    'set/copy-of-net-store.dxf': new Uint8Array(first),
    'set/letter.txt': new TextEncoder().encode('Dear drafter'),
  });
  const file = { name: 'set.zip', mimeType: 'application/zip', buffer: Buffer.from(archive) };
  await page.getByLabel('Drawing files').setInputFiles([file]);
  await expect(page.locator('fx-drawing-card').filter({ hasText: /net-store\.dxf/ })).toHaveCount(1);
  await expect(page.getByText('Left out, not a drawing: letter.txt (in set.zip).')).toBeVisible();
  // Either of the two may be the first to arrive.
  await expect(page.getByText(/net-store.dxf is here already, as version 1/)).toBeVisible();
});

test('a newer version is compared before it is taken; the live view follows, the held one is out of date', async ({
  folvex: page,
}) => {
  await go(page, 'Gather');
  await drop(page, [{ name: 'slipway.dxf', text: drawing(4, 'Slipway').toString() }]);
  const card = page.locator('fx-drawing-card').filter({ hasText: 'slipway.dxf' });
  await card.getByRole('button', { name: 'Create sheet' }).click();
  const panel = page.locator('fx-new-sheet-panel');
  for (const number of ['S-01', 'S-02']) {
    await panel.getByLabel('Number').fill(number);
    await panel.getByRole('button', { name: 'Create sheet' }).click();
    await expect(panel).toContainText(`Sheet ${number} is on the wall`);
  }
  await go(page, 'Sheets');
  const held = page.getByRole('option', { name: /S-02/ });
  await chooseSheet(held, page.getByRole('button', { name: 'Hold' }));
  await page.getByRole('button', { name: 'Hold' }).click();
  await expect(page.getByText('held at version 1')).toBeVisible();

  await go(page, 'Gather');
  await drop(page, [{ name: 'slipway.dxf', text: drawing(4, 'Slipway, steeper').toString() }]);
  await expect(page.locator('fx-incoming')).toContainText(
    'slipway.dxf differs from version 1 of slipway.dxf, shown on 2 sheets.',
  );
  await page.getByRole('button', { name: 'See what changes' }).click();
  const changes = page.locator('fx-changes-panel');
  await expect(changes).toContainText('1 added, 1 removed, 12 unchanged');
  await expect(changes.getByRole('row', { name: /A-NOTE/ })).toContainText('1');
  await expect(changes.locator('canvas.painted')).toHaveCount(1);
  await expect(changes).toContainText('S-02 (out of date)');
  await changes.getByRole('button', { name: 'Take as version 2' }).click();
  await expect(card).toContainText('version 2');

  await go(page, 'Sheets');
  await expect(page.getByRole('option', { name: /S-02/ })).toContainText('out of date');
  await expect(page.getByRole('option', { name: /S-01/ })).not.toContainText('out of date');
  await chooseSheet(held, page.getByRole('button', { name: 'Follow' }));
  await page.getByRole('button', { name: 'Follow' }).click();
  await expect(page.getByRole('option', { name: /S-02/ })).not.toContainText('out of date');
});

test('a drawing is looked at closely: a line is named, a distance measured, a layer seen alone, a window made a sheet', async ({
  folvex: page,
}) => {
  await go(page, 'Gather');
  await drop(page, [{ name: 'winch.dxf', text: drawing(4, 'Winch').toString() }]);
  await page.getByRole('link', { name: 'winch.dxf' }).click();
  const canvas = page.locator('fx-drawing-canvas');
  await expect(canvas).not.toHaveAttribute('data-painted', '0');
  const box = (await canvas.boundingBox())!;
  // The page holds 11 000 × 8 500 mm of lines, and text, with room around; the line at x = 5 000 mm is near the middle.
  const at = async (what: RegExp, dx: number, dy: number): Promise<boolean> => {
    await page.mouse.click(box.x + box.width / 2 + dx, box.y + box.height / 2 + dy);
    return page
      .getByLabel('Chosen entity')
      .getByText(what)
      .waitFor({ timeout: 1500 })
      .then(
        () => true,
        () => false,
      );
  };
  let found = false;
  for (let dx = -60; dx <= 60 && !found; dx += 12) found = await at(/A-WALL/, dx, 40);
  expect(found).toBe(true);
  await expect(page.getByLabel('Chosen entity')).toContainText('8000');
  // The address leads to the line again.
  await expect(page).toHaveURL(/[?&]entity=\d+/);
  await page.reload();
  await expect(page.getByLabel('Chosen entity')).toContainText('8000');
  await page.getByRole('button', { name: 'Show all' }).click();

  const measure = page.getByRole('radio', { name: 'Measure' });
  await measure.click();
  // What a press does changes with the next frame.
  await expect(measure).toBeChecked();
  // Ends of lines are caught: between two lines' lower ends, a whole number of metres.
  const low = box.y + box.height * 0.5;
  await page.mouse.click(box.x + box.width * 0.4, low);
  await page.mouse.click(box.x + box.width * 0.6, low);
  await expect(canvas.locator('svg text')).toHaveText(/\d mm$/);

  await page.getByLabel('Search layers').fill('note');
  await expect(page.locator('fx-layer-filter li')).toHaveCount(1);
  await page.getByLabel('Only A-NOTE').click();
  await page.getByLabel('Search layers').fill('');
  await expect(page.locator('fx-layer-filter').getByLabel('A-WALL', { exact: true })).not.toBeChecked();

  await page.getByRole('radio', { name: 'Draw a window' }).click();
  await page.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.3);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.7, box.y + box.height * 0.7, { steps: 3 });
  await page.mouse.up();
  const panel = page.locator('fx-new-sheet-panel');
  await panel.getByLabel('Name of the window').fill('Winch bay');
  await panel.getByRole('button', { name: 'Save' }).click();
  await expect(panel.getByRole('button', { name: 'Winch bay', exact: true })).toBeVisible();
  await panel.getByLabel('Number').fill('W-01');
  await panel.getByRole('button', { name: 'Create sheet' }).click();
  await expect(panel).toContainText('Sheet W-01 is on the wall');

  // What is seen becomes a sheet, without the layers that are hidden.
  await page.getByRole('radio', { name: 'Look' }).click();
  await page.getByRole('button', { name: 'Sheet from this view' }).click();
  await expect(panel).toContainText('Leaves out 1 layer hidden in this view.');
  await panel.getByLabel('Number').fill('W-03');
  await panel.getByRole('button', { name: 'Create sheet' }).click();
  await expect(panel).toContainText('Sheet W-03 is on the wall');

  // The window is there again for another sheet.
  await go(page, 'Gather');
  const card = page.locator('fx-drawing-card').filter({ hasText: 'winch.dxf' });
  await card.getByRole('button', { name: 'Create sheet' }).click();
  await pick(panel, 'Shows', 'Winch bay');
  await panel.getByLabel('Number').fill('W-02');
  await panel.getByRole('button', { name: 'Create sheet' }).click();
  await expect(panel).toContainText('Sheet W-02 is on the wall');
});
