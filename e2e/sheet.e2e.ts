import { choose, coloursOf, expect, go, test } from './folvex';

test('a view is moved, scaled, turned and taken back; the sheet on paper follows to the hundredth', async ({
  folvex: page,
}) => {
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-102/ }).dblclick();
  const views = page.locator('fx-placed-views rect.view');
  await expect(views).toHaveCount(1);
  const panel = page.locator('fx-view-panel');
  await views.first().focus();
  await expect(panel).toContainText('upper-floor.dxf');
  const left = panel.getByLabel('From the left', { exact: true });
  const before = Number(await left.inputValue());

  // Keys move by whole millimetres, with Shift by ten.
  await page.keyboard.press('Shift+ArrowRight');
  await expect(left).toHaveValue(String(Math.round((before + 10) * 100) / 100));

  // Pressed quickly, each counts, though the server answers one after the other.
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await expect(left).toHaveValue(String(Math.round((before + 13) * 100) / 100));
  await expect(page.getByText('Saving …')).toHaveCount(0);
  await expect(left).toHaveValue(String(Math.round((before + 13) * 100) / 100));
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(left).toHaveValue(String(Math.round((before + 10) * 100) / 100));

  // Its middle stays where it is when its scale changes.
  const width = async (): Promise<number> => Number(await views.first().getAttribute('width'));
  const middle = async (): Promise<number> => Number(await views.first().getAttribute('x')) + (await width()) / 2;
  const [wide, where] = [await width(), await middle()];
  const scale = panel.getByLabel('Scale', { exact: true });
  await expect(scale).toHaveValue('1:100');
  await scale.fill('1:200');
  await scale.press('Enter');
  await expect.poll(width).toBeCloseTo(wide / 2, 1);
  expect(await middle()).toBeCloseTo(where, 1);

  await page.getByLabel('Rotation', { exact: true }).fill('90');
  await page.getByLabel('Rotation', { exact: true }).press('Enter');
  await expect(page.getByRole('button', { name: /^Undo views of A-102/ })).toBeEnabled();

  // A scale that is none is refused with the reason; what was there stays.
  await scale.fill('half');
  await scale.press('Enter');
  await expect(panel).toContainText('Write a scale such as 1:50, or fit.');

  // Back to where it was, step by step: turn, scale, place.
  for (let step = 0; step < 3; step++) {
    await page.getByRole('button', { name: /^Undo/ }).click();
    await expect(page.getByRole('button', { name: /^Redo views of A-102/ })).toBeEnabled();
  }
  await expect(left).toHaveValue(String(before));
  await expect(scale).toHaveValue('1:100');
  await page.getByRole('button', { name: /^Redo/ }).click();
  await expect(left).toHaveValue(String(Math.round((before + 10) * 100) / 100));
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(left).toHaveValue(String(before));
});

test('a view of another drawing is put on a sheet, loses a layer, and is taken off', async ({ folvex: page }) => {
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-201/ }).click();
  await page.getByRole('link', { name: 'Open the sheet' }).click();
  const views = page.locator('fx-placed-views rect.view');
  await expect(views.first()).toBeVisible();
  const count = await views.count();
  await choose(page, 'Drawing', 'site.dxf');
  await page.getByRole('button', { name: 'Place on sheet' }).click();
  await expect(views).toHaveCount(count + 1);
  const panel = page.locator('fx-view-panel');
  await expect(panel).toContainText('site.dxf');
  await expect(panel).toContainText('Fitted at 1:');
  const layer = panel.getByRole('checkbox').nth(1);
  await layer.uncheck();
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeEnabled();
  await expect(layer).not.toBeChecked();
  await panel.getByRole('button', { name: 'Remove this view' }).click();
  await expect(views).toHaveCount(count);
});

test('several sheets are set in one step and taken back in one; a copy gets the next number', async ({
  folvex: page,
}) => {
  await go(page, 'Sheets');
  const tile = (number: string) => page.getByRole('option', { name: new RegExp(`${number} `) });
  for (const number of ['A-102', 'A-111']) await expect(tile(number).locator('canvas.painted')).toHaveCount(1);
  await tile('A-102').click();
  await tile('A-111').click({ modifiers: ['Control'] });
  const panel = page.locator('fx-several-panel');
  await panel.getByLabel('Scale of all views').fill('1:250');
  await panel.getByRole('button', { name: 'Set on 2 sheets' }).click();
  for (const number of ['A-102', 'A-111']) await expect(tile(number)).toContainText('1:250');
  await page.getByRole('button', { name: /^Undo/ }).click();
  for (const number of ['A-102', 'A-111']) await expect(tile(number)).toContainText('1:100');

  await tile('A-102').click();
  await page.getByRole('button', { name: 'Duplicate with the next number' }).click();
  await expect(tile('A-103')).toContainText('Upper floor plan');
  await tile('A-103').click();
  await page.getByRole('button', { name: 'Remove A-103 from the project' }).click();
  await expect(tile('A-103')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Undone: removal of A-103')).toBeVisible();
  await expect(tile('A-103')).toHaveCount(1);
});

test('a title block is chosen and filled in; what is missing is pointed out, also before publishing', async ({
  folvex: page,
}) => {
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-202/ }).dblclick();
  const panel = page.locator('fx-sheet-panel');
  await expect(panel.getByRole('combobox', { name: 'Title block' })).toContainText('Low strip');
  await choose(panel, 'Title block', 'Strip along the right side');
  await expect(page.locator('.area')).toHaveAttribute('width', String(420 - 30 - 62));
  await expect(page.locator('fx-placed-views rect.blank')).toHaveCount(0);
  const approval = panel.getByLabel('Approval person');
  await approval.fill('');
  await approval.press('Enter');
  await expect(page.locator('fx-placed-views rect.blank')).toHaveCount(1);
  await expect(panel).toContainText('Fill this in.');
  await go(page, 'Package');
  await expect(page.getByText('The title block of A-202 has no Approval person')).toBeVisible();
  await go(page, 'Sheets');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await go(page, 'Package');
  await expect(page.getByText('The title block of A-202 has no Approval person')).toHaveCount(0);
});

test('a locked view stays where it is, and its inks are its own', async ({ folvex: page }) => {
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-101/ }).dblclick();
  const view = page.locator('fx-placed-views rect.view').first();
  await view.focus();
  const panel = page.locator('fx-view-panel');
  await panel.getByRole('checkbox', { name: /^Locked/ }).check();
  const left = panel.getByLabel('From the left', { exact: true });
  await expect(left).toBeDisabled();
  await expect(page.getByRole('button', { name: /^Undo views of A-101/ })).toBeEnabled();
  const before = await left.inputValue();
  await page.locator('fx-placed-views rect.view').first().focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('fx-notice')).toContainText('is locked');
  await expect(left).toHaveValue(before);
  const colours = coloursOf.bind(null, page, 'fx-sheet-place canvas');
  await expect.poll(colours).toBeGreaterThan(10);
  await choose(panel, 'Colours', 'all black');
  await panel.getByLabel('Screened to').fill('30');
  await panel.getByLabel('Screened to').press('Enter');
  await expect(page.getByText('Saving …')).toHaveCount(0);
  await expect(panel.getByLabel('Screened to')).toHaveValue('30');
});

test('a paper of its own size takes the place of a named one', async ({ folvex: page }) => {
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-502/ }).dblclick();
  const panel = page.locator('fx-sheet-panel');
  await choose(panel, 'Paper', 'own size');
  const wide = panel.getByLabel('Paper width');
  await expect(wide).toHaveValue('420');
  await wide.fill('5');
  await wide.press('Enter');
  await expect(panel).toContainText('Type a number from 10 to 20000.');
  await wide.fill('500.5');
  await wide.press('Enter');
  await expect(page.locator('.fx-bar')).toContainText('500.5 × 297 mm');
});

test('a note is written on a sheet, points at something, is moved by keys and taken back', async ({ folvex: page }) => {
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-501/ }).dblclick();
  await page.getByRole('button', { name: 'Text', exact: true }).click();
  const panel = page.locator('fx-note-panel');
  const left = panel.getByLabel('From the left', { exact: true });
  const before = Number(await left.inputValue());
  await panel.getByLabel('Text', { exact: true }).fill('Hinge plate');
  await panel.getByLabel('Text', { exact: true }).blur();
  await panel.getByRole('button', { name: 'Add a leader' }).click();
  await expect(panel.getByLabel('Points at, from the left')).toHaveValue(String(before - 25));
  const note = page.getByRole('button', { name: 'Note Text: Hinge plate' });
  await note.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(left).toHaveValue(String(before + 10));
  await expect(panel.getByLabel('Points at, from the left')).toHaveValue(String(before - 15));
  await page.keyboard.press('Delete');
  await expect(note).toHaveCount(0);
  await page.getByRole('button', { name: /^Undo notes of A-501/ }).click();
  await expect(note).toHaveCount(1);
});

test('the list is edited cell by cell with the keyboard, and says what cannot be', async ({ folvex: page }) => {
  await go(page, 'Sheets');
  await page.getByRole('radio', { name: 'List' }).click();
  const cell = (name: string) => page.getByRole('cell', { name: new RegExp(`^${name}`) });
  await cell('Title of A-301').click();
  await page
    .getByRole('textbox', { name: 'Title of A-301' })
    .or(page.getByRole('combobox', { name: 'Title of A-301' }))
    .fill('Long section');
  await page.keyboard.press('Enter');
  await expect(cell('Title of A-301')).toHaveText('Long section');
  // Enter goes on to the cell below; the arrows go from cell to cell.
  await expect(cell('Title of A-401')).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await page.getByRole('option', { name: 'Site and plans' }).click();
  await expect(cell('Group of A-401')).toHaveText('Site and plans');
  await expect(cell('Group of A-401')).toBeFocused();
  await cell('Scale of A-401').click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('half');
  await page.keyboard.press('Tab');
  await expect(page.getByText('Write a scale such as 1:50, or fit.')).toBeVisible();
  await page.keyboard.press('Escape');
  // A column of a spreadsheet goes into the cells from the one at hand on.
  await cell('Title of A-501').click();
  await page.keyboard.press('Escape');
  await expect(cell('Title of A-501')).toBeFocused();
  await page.evaluate(() => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', 'Stair\tNowhere\r\nBridge\r\n');
    document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true }));
  });
  await expect(cell('Title of A-501')).toHaveText('Stair');
  await expect(cell('Title of A-502')).toHaveText('Bridge');
  await expect(page.locator('fx-notice')).toContainText('2 cells pasted; could not paste group of A-501.');
  // Columns that are not needed are left out; the browser remembers it.
  await page.getByRole('combobox', { name: 'Columns shown' }).click();
  await page.getByRole('option', { name: 'Frame' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('columnheader', { name: 'Frame' })).toHaveCount(0);
  await page.reload();
  await page.getByRole('radio', { name: 'List' }).click();
  await expect(page.getByRole('columnheader', { name: 'Title block' })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: 'Frame' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Number', exact: true }).click();
  await expect(page.locator('fx-sheet-list tbody tr').first()).toContainText('A-502');
});
