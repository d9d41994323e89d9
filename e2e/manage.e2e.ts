import { demoAddress, drawing, expect, go, names, strip, test } from './folvex';

test('drawings, packages and runs are renamed, removed and restored', async ({ folvex: page }) => {
  await go(page, 'Gather');
  const buffer = drawing(4);
  await page.getByLabel('Drawing files').setInputFiles({ name: 'shed.dxf', mimeType: 'image/vnd.dxf', buffer });
  // What arrived last comes first.
  await expect(page.locator('fx-drawing-card').first()).toContainText('shed.dxf');
  await page.getByRole('button', { name: 'More for shed.dxf' }).click();
  await page.getByRole('menuitem', { name: 'Rename …' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('boat shed.dxf');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await page.getByRole('button', { name: 'More for boat shed.dxf' }).click();
  await page.getByRole('menuitem', { name: 'Remove …' }).click();
  await expect(page.getByRole('dialog')).toContainText('No sheet shows it.');
  await page.getByRole('button', { name: 'Remove drawing' }).click();
  await expect(page.locator('fx-notice')).toContainText('boat shed.dxf is removed.');
  await page.locator('fx-notice').getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('fx-drawing-card').first()).toContainText('boat shed.dxf');

  // A drawing that sheets show offers no removal.
  await page.getByRole('button', { name: 'More for ground-floor.dxf' }).click();
  await page.getByRole('menuitem', { name: 'Remove …' }).click();
  await expect(page.getByRole('dialog')).toContainText('3 sheets show it. Remove its views there first.');
  await expect(page.getByRole('button', { name: 'Remove drawing' })).toHaveCount(0);
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();

  await go(page, 'Package');
  await page.getByRole('radio', { name: /^Tender/ }).click();
  await page.getByRole('button', { name: 'More for Tender, separate sheets' }).click();
  await page.getByRole('menuitem', { name: 'Rename …' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('Tender');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await page.getByRole('button', { name: 'More for Tender' }).click();
  await page.getByRole('menuitem', { name: 'Remove …' }).click();
  await expect(page.getByRole('dialog')).toContainText('It has 8 pages. Its sheets stay in the project.');
  await page.getByRole('button', { name: 'Remove package' }).click();
  await expect(page.getByRole('radio', { name: /^Tender/ })).toHaveCount(0);
  await page.locator('fx-notice').getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('radio', { name: /^Tender 8/ })).toBeVisible();

  await page.getByRole('radio', { name: /^Permit set/ }).click();
  await page.getByRole('button', { name: /^Publish/ }).click();
  await page.getByRole('button', { name: 'Open on the light table' }).click();
  await expect(page).toHaveURL(/\/runs\/[\w-]+/);
  await page.getByRole('button', { name: 'More for this run' }).click();
  await page.getByRole('menuitem', { name: 'Rename run …' }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('For the planner');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  const run = page.getByRole('combobox', { name: 'Run', exact: true });
  await expect(run).toContainText('For the planner');
  await page.locator('fx-notice').getByRole('button', { name: 'Undo' }).click();
  await expect(run).toContainText('Permit set');
  await page.getByRole('button', { name: 'More for this run' }).click();
  await page.getByRole('menuitem', { name: 'Remove run …' }).click();
  await page.getByRole('button', { name: 'Remove run', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'This run was removed' })).toBeVisible();
  await page.getByRole('button', { name: /^Restore .* Permit set/ }).click();
  await expect(page.getByLabel('Search the text')).toBeVisible();
  await page.goto(page.url().replace(/\/runs\/[\w-]+.*/, '/runs/no-such-run'));
  await expect(page.getByRole('heading', { name: 'There is no run at this address' })).toBeVisible();
  await page.getByRole('link', { name: 'Open the latest run' }).click();
  await expect(page.getByLabel('Search the text')).toBeVisible();
});

test('a project has an address of its own; it is removed from the first page and restored', async ({
  folvex: page,
  address,
}) => {
  const demo = await demoAddress(page, address);
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-101/ }).dblclick();
  await expect(page).toHaveURL(/\/sheets\/[\w-]+$/);
  const sheet = page.url();
  await go(page, 'Package');
  await expect(page).toHaveURL(`${demo}/packages/permit`);
  await page.goBack();
  await expect(page).toHaveURL(sheet);

  await page.getByRole('link', { name: 'Projects' }).click();
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByRole('button', { name: 'Create project' }).click();
  await expect(page.getByText('A project needs a name.')).toBeVisible();
  await page.getByLabel('Project name').fill('Harbour office');
  await page.getByRole('button', { name: 'Create project' }).click();
  await expect(page.getByRole('banner')).toContainText('Harbour office');
  // A second tab shows the other project; neither disturbs the other.
  const other = await page.context().newPage();
  await other.goto(sheet);
  await expect(other.getByRole('banner')).toContainText('Tern Quay Ferry Terminal');
  await page.reload();
  await expect(page.getByRole('banner')).toContainText('Harbour office');
  await other.close();

  // With nothing in it, every place says what comes first.
  for (const [place, words] of [
    ['Gather', 'No drawings yet'],
    ['Sheets', 'No sheets yet'],
    ['Pens', 'Used by no recipe'],
    ['Package', 'No package yet'],
    ['Light table', 'Nothing published yet'],
    ['Issues', 'No issues yet'],
  ] as const) {
    await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: place, exact: true }).click();
    await expect(page.getByText(words)).toBeVisible();
  }

  // It goes out as one file, and comes in again.
  await page.getByRole('link', { name: 'Projects' }).click();
  await page.getByRole('button', { name: 'More for Tern Quay Ferry Terminal' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'Export as ZIP' }).click();
  const archive = await download;
  expect(archive.suggestedFilename()).toBe('2617 Tern Quay Ferry Terminal.zip');
  const cards = page.getByRole('link', { name: 'Open Tern Quay Ferry Terminal' });
  // While the request is held here, the import can be cancelled.
  await page.route('**/api/projects/import', () => undefined);
  await page.getByLabel('Archive of a project').setInputFiles(await archive.path());
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('button', { name: 'Import project' })).toBeEnabled();
  await page.unroute('**/api/projects/import');
  await expect(cards).toHaveCount(1);
  await page.getByLabel('Archive of a project').setInputFiles(await archive.path());
  await expect(cards).toHaveCount(2);
  await page.locator('fx-notice').getByRole('button', { name: 'Open' }).click();
  await expect(page.getByRole('option', { name: /A-101/ })).toBeVisible();
  expect(page.url()).not.toContain(demo);

  await page.getByRole('link', { name: 'Projects' }).click();
  await page.getByRole('button', { name: 'More for Harbour office' }).click();
  await page.getByRole('menuitem', { name: 'Remove …' }).click();
  await page.getByRole('button', { name: 'Remove project' }).click();
  await expect(page.getByRole('link', { name: 'Open Harbour office' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Restore Harbour office' }).click();
  await expect(page.getByRole('link', { name: 'Open Harbour office' })).toBeVisible();
});

test('pages are reordered many at once, by position, behind another one, by cut and paste, and dragged', async ({
  folvex: page,
}) => {
  await go(page, 'Package');
  const order = async (): Promise<string[]> => {
    await page.getByRole('radio', { name: 'Strip' }).click();
    await page.locator('fx-page-strip .page').first().waitFor();
    const numbers = await strip(page);
    await page.getByRole('radio', { name: 'Grid' }).click();
    return numbers;
  };
  const start = await order();
  const tile = (at: number) => page.locator(`fx-page-board [data-at="${at}"]`);
  await tile(0).click();
  await expect(page.getByText('1 page selected')).toBeVisible();
  await tile(1).click({ modifiers: ['Shift'] });
  await expect(page.getByText('2 pages selected')).toBeVisible();
  await page.getByLabel('Move to position').fill('4');
  await page.getByLabel('Move to position').press('Enter');
  expect(await order()).toEqual([...start.slice(2, 5), start[0], start[1], ...start.slice(5)]);

  await page.getByRole('option', { name: new RegExp(start[0]!) }).click();
  await page.getByRole('option', { name: new RegExp(start[1]!) }).click({ modifiers: ['Control'] });
  await page.getByLabel('Move after page').fill('A-999');
  await page.getByLabel('Move after page').press('Enter');
  await expect(page.getByText('No other page has this number.')).toBeVisible();
  await page.getByLabel('Move after page').fill(start[8]!);
  await page.getByLabel('Move after page').press('Enter');
  expect(await order()).toEqual([...start.slice(2), start[0], start[1]]);

  // By keys: cut the two last, and paste them after the first.
  await tile(7).click();
  await page.keyboard.press('Shift+End');
  await page.keyboard.press('Control+x');
  await page.keyboard.press('Home');
  await page.keyboard.press('Control+v');
  expect(await order()).toEqual([start[2], start[0], start[1], ...start.slice(3)]);

  const [from, to] = [(await tile(0).boundingBox())!, (await tile(2).boundingBox())!];
  await page.mouse.move(from.x + 60, from.y + 60);
  await page.mouse.down();
  await page.mouse.move(from.x + 90, from.y + 60, { steps: 4 });
  await page.mouse.move(to.x + to.width - 10, to.y + 60, { steps: 8 });
  await expect(page.locator('fx-page-board .behind')).toHaveCount(1);
  await page.mouse.up();
  expect(await order()).toEqual(start);
  await page.getByRole('radio', { name: 'Table' }).click();
  await tile(8).click();
  await page.getByRole('button', { name: 'Leave out' }).click();
  await expect(tile(8)).toContainText('–');
  await page.getByRole('radio', { name: 'Strip' }).click();
  await expect.poll(() => names(page)).toHaveLength(1);
});

test('anything is reached by a few letters of its name', async ({ folvex: page }) => {
  await page.getByRole('option', { name: /A-101/ }).waitFor();
  await page.keyboard.press('Control+k');
  const field = page.getByRole('combobox', { name: 'Quick search' });
  await field.fill('elevation east');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/sheets\/a202$/);
  await page.keyboard.press('Control+k');
  await field.fill('details.dxf');
  await page.keyboard.press('Enter');
  await expect(page.locator('fx-drawing-canvas')).toBeVisible();
  await page.keyboard.press('Control+k');
  await field.fill('publish permit');
  await page.keyboard.press('Enter');
  await expect(page.locator('fx-notice')).toContainText('Permit set is published');
});

test('people see who else has a project open, and which sheet each is viewing', async ({
  folvex: page,
  address,
  browser,
}) => {
  const elsewhere = await browser.newContext();
  const other = await elsewhere.newPage();
  await other.goto(await demoAddress(page, address));
  await other.getByRole('button', { name: /people in this project/i }).click();
  await other.getByLabel('Your name').fill('Ada Finch');
  await other.keyboard.press('Tab');
  await other.getByRole('button', { name: 'Close' }).click();
  await go(other, 'Sheets');
  await other.getByRole('option', { name: /A-102/ }).dblclick();
  await other.locator('fx-placed-views rect.view').first().waitFor();

  // Going to another place reports and asks at once.
  await go(page, 'Sheets');
  await page.getByRole('button', { name: 'Ada Finch: people in this project' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Ada Finch is viewing A-102 Upper floor plan');
  await dialog.getByRole('link', { name: 'A-102' }).click();
  await expect(page).toHaveURL(other.url());
  await page.getByRole('link', { name: 'Projects' }).click();
  await expect(page.getByText('Open now: Ada Finch')).toBeVisible();
  await go(other, 'Gather');
  await other.getByRole('link', { name: 'Projects' }).click();
  await expect(other.getByText('Open now')).toHaveCount(0);
  await elsewhere.close();
});
