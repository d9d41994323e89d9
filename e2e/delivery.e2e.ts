import { expect, go, names, test } from './folvex';

test('a package is changed for one run only: in other formats, delivered to a folder, with what is there already told', async ({
  folvex: page,
}) => {
  await go(page, 'Package');
  await page.getByRole('button', { name: 'Change it for one run only' }).click();
  await page.getByText(/^Beside PDF:/).click();
  await page.getByRole('checkbox', { name: /^SVG/ }).check();
  await page.getByRole('checkbox', { name: /^PNG/ }).check();
  await page.getByLabel('Dots to the inch').selectOption('72');
  await page.getByLabel('each format in a folder of its own').check();
  const where = page.locator('fx-destination-panel select').first();
  await where.selectOption('folder');
  await expect(page.locator('fx-destination-panel')).toContainText(/delivered\/2617/);
  await expect.poll(async () => (await names(page)).filter((name) => /A-101.*\.(svg|png)$/.test(name))).toHaveLength(2);
  await page.getByRole('button', { name: 'Write 19 files, 9 pages' }).click();
  const run = page.getByRole('region', { name: 'Latest run' });
  await expect(run).toContainText('19 files at the destination.');
  await expect(run).toContainText('found as it should be: 9 pages');
  // Now they are there.
  const finding = page.getByRole('list', { name: 'Findings' }).getByRole('listitem').first();
  await expect(finding).toContainText('19 files are at the destination already');
  await expect(page.getByRole('button', { name: /^Write/ })).toBeDisabled();
  await finding.getByRole('button', { name: 'Keep both' }).click();
  await expect(page.getByRole('button', { name: /^Write/ })).toBeEnabled();
  await page.getByRole('button', { name: 'Go back to what is kept' }).click();
  await expect(page.getByRole('button', { name: 'Write 1 file, 9 pages' })).toBeEnabled();
  await expect(where).toHaveValue('');
  await go(page, 'Light table');
  await expect(page.locator('fx-run-files a.open').filter({ hasText: 'PNG/A-101' })).toBeVisible();
});

test('an edit of a package is taken back by keys, and done again', async ({ folvex: page }) => {
  await go(page, 'Package');
  await page.getByRole('radio', { name: 'A file per sheet' }).click();
  await expect(page.getByRole('button', { name: /^Write 9 files/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Undo bundling of Permit set' })).toBeEnabled();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Write 1 file/ })).toBeVisible();
  await expect(page.getByText('Undone: bundling of Permit set')).toBeVisible();
  await page.keyboard.press('Control+y');
  await expect(page.getByRole('button', { name: /^Write 9 files/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Write 1 file/ })).toBeVisible();
});

test("a drawing's space becomes a page of the package", async ({ folvex: page }) => {
  await go(page, 'Package');
  await page.getByRole('button', { name: 'Add sheets' }).click();
  await page.getByLabel("Add a drawing's space").selectOption({ label: 'details.dxf: model' });
  await expect(page.getByRole('listitem', { name: /Page 10, +details.dxf/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Write 1 file, 10 pages' })).toBeVisible();
  await page.getByRole('listitem', { name: /Page 10/ }).focus();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Write 1 file, 9 pages' })).toBeVisible();
});

test('links of a page are followed on the light table, to another file too', async ({ folvex: page }) => {
  await go(page, 'Package');
  await page.getByRole('button', { name: /^Tender/ }).click();
  await page.getByRole('button', { name: /^Write 8 files/ }).click();
  await expect(page.getByRole('region', { name: 'Latest run' })).toContainText('8 files');
  await page.getByRole('link', { name: 'Look at it', exact: true }).click();
  const files = page.locator('fx-run-files .file');
  await files.filter({ hasText: 'A-101' }).getByRole('button').click();
  await expect(page.locator('fx-page-viewer strong')).toHaveText('A-101');
  await page
    .getByRole('button', { name: /^To .*A-501/ })
    .first()
    .click();
  await expect(page.locator('fx-page-viewer strong')).toHaveText('A-501');
  await expect(page.locator('fx-run-files .file.here')).toContainText('A-501');
});

test('the wall and the list show only what is asked for', async ({ folvex: page }) => {
  await go(page, 'Sheets');
  const tiles = page.locator('fx-sheet-tile');
  await expect(tiles).toHaveCount(10);
  await page.getByRole('button', { name: 'Filter' }).click();
  await page.getByLabel('In a package').selectOption({ label: 'only in Tender, separate sheets' });
  await expect(tiles).toHaveCount(8);
  await page.getByLabel('Group', { exact: true }).selectOption({ label: 'Elevations and sections' });
  await expect(page.locator('fx-wall h2')).toHaveText(['Elevations and sections']);
  const few = await tiles.count();
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await expect(page.locator('fx-sheet-list tbody tr')).toHaveCount(few);
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page.locator('fx-sheet-list tbody tr')).toHaveCount(10);
});
