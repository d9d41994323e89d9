import { choose, expect, go, names, test } from './folvex';

test('a package is changed for one run only: in other formats, delivered to a folder, with what is there already told', async ({
  folvex: page,
}) => {
  await go(page, 'Package');
  await page.getByRole('button', { name: 'Change for one run only' }).click();
  const panel = page.locator('fx-formats-panel');
  await panel.getByRole('combobox', { name: 'Other formats' }).click();
  await page.getByRole('option', { name: /^SVG/ }).click();
  await page.getByRole('option', { name: /^PNG/ }).click();
  await page.getByRole('option', { name: /^DXF/ }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'DXF files: as on paper, mm' }).click();
  await choose(page.locator('fx-dxf-panel'), 'Size', 'true size, whole sheet');
  await choose(page.locator('fx-dxf-panel'), 'Unit', 'm');
  await choose(panel, 'Resolution of pictures', '72 dpi');
  await panel.getByRole('checkbox', { name: 'A folder for each format' }).check();
  await choose(page, 'Destination', 'Folder on the server');
  await expect(page.locator('fx-destinations-panel')).toContainText(/delivered\/2617/);
  await expect
    .poll(async () => (await names(page)).filter((name) => /A-101.*\.(svg|png|dxf)$/.test(name)))
    .toHaveLength(3);
  await page.getByRole('button', { name: 'Publish 28 files, 9 pages' }).click();
  const run = page.getByRole('region', { name: 'Latest run' });
  await expect(run).toContainText(/28 files at \S*delivered\/2617/);
  await expect(run).toContainText('found as it should be: 9 pages');
  // Now they are there.
  const finding = page.getByRole('list', { name: 'Findings' }).getByRole('listitem').first();
  await expect(finding).toContainText('28 files are at the destination already');
  await expect(page.getByRole('button', { name: /^Publish/ })).toBeDisabled();
  await finding.getByRole('button', { name: 'Keep both' }).click();
  await expect(page.getByRole('button', { name: /^Publish/ })).toBeEnabled();
  await page.getByRole('button', { name: 'Discard the changes' }).click();
  await expect(page.getByRole('button', { name: 'Publish 1 file, 9 pages' })).toBeEnabled();
  await expect(page.getByRole('combobox', { name: 'Destination' })).toHaveText('Download');
  await go(page, 'Light table');
  await expect(page.locator('fx-run-files a.open').filter({ hasText: 'PNG/A-101' })).toBeVisible();
  // The same files go to somebody else later, who has a file of one of these names.
  const send = page.getByRole('dialog');
  await page.getByRole('button', { name: 'More for this run' }).click();
  await page.getByRole('menuitem', { name: 'Send run …' }).click();
  await choose(send, 'Destination', 'Folder on the server');
  await expect(send).toContainText('28 files of the same name exist there');
  await expect(send.getByRole('button', { name: 'Send', exact: true })).toBeDisabled();
  await choose(send, 'If a file of that name exists', 'keep both: the new one gets a number');
  await send.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(page.locator('fx-run-files .delivery')).toHaveCount(2);
  await expect(page.locator('fx-run-files .delivery').last()).toContainText(/^28 files at \S*delivered\/2617/);
});

test('an edit of a package is taken back by keys, and done again', async ({ folvex: page }) => {
  await go(page, 'Package');
  await page.getByRole('radio', { name: 'A file per sheet' }).click();
  await expect(page.getByRole('button', { name: /^Publish 9 files/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Undo bundling of Permit set' })).toBeEnabled();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Publish 1 file/ })).toBeVisible();
  await expect(page.getByText('Undone: bundling of Permit set')).toBeVisible();
  await page.keyboard.press('Control+y');
  await expect(page.getByRole('button', { name: /^Publish 9 files/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Publish 1 file/ })).toBeVisible();
});

test("a drawing's space becomes a page of the package", async ({ folvex: page }) => {
  await go(page, 'Package');
  await page.getByRole('button', { name: 'Add sheets' }).click();
  await choose(page, "Add a drawing's space", 'details.dxf: model');
  await expect(page.getByRole('listitem', { name: /Page 10, +details.dxf/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Publish 1 file, 10 pages' })).toBeVisible();
  await page.getByRole('listitem', { name: /Page 10/ }).focus();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Publish 1 file, 9 pages' })).toBeVisible();
});

test('links of a page are followed on the light table, to another file too', async ({ folvex: page }) => {
  await go(page, 'Package');
  await page.getByRole('radio', { name: /^Tender/ }).click();
  await page.getByRole('button', { name: /^Publish 8 files/ }).click();
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
  await choose(page, 'In a package', 'only in Tender, separate sheets');
  await expect(tiles).toHaveCount(8);
  await choose(page, 'Group', 'Elevations and sections');
  await expect(page.locator('fx-wall .heading')).toHaveText(['Elevations and sections']);
  const few = await tiles.count();
  await page.getByRole('radio', { name: 'List' }).click();
  await expect(page.locator('fx-sheet-list tbody tr')).toHaveCount(few);
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page.locator('fx-sheet-list tbody tr')).toHaveCount(10);
});
