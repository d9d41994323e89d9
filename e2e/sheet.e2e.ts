import { expect, go, test } from './folvex';

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
  const left = panel.getByLabel('From the left, mm');
  const before = Number(await left.inputValue());

  // Keys move by whole millimetres, with Shift by ten.
  await page.keyboard.press('Shift+ArrowRight');
  await expect(left).toHaveValue(String(Math.round((before + 10) * 100) / 100));

  // Pressed quickly, each counts, though the server answers one after the other.
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await expect(left).toHaveValue(String(Math.round((before + 13) * 100) / 100));
  await expect(page.getByText('Saving …')).toHaveCount(0);
  await expect(left).toHaveValue(String(Math.round((before + 13) * 100) / 100));
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: /^Take back/ }).click();
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

  await page.getByLabel('Turned, degrees').fill('90');
  await page.getByLabel('Turned, degrees').press('Enter');
  await expect(page.getByRole('button', { name: /^Take back views of A-102/ })).toBeEnabled();

  // A scale that is none is refused with the reason; what was there stays.
  await scale.fill('half');
  await scale.press('Enter');
  await expect(page.getByRole('alert')).toContainText('"half" is not a scale');

  // Back to where it was, step by step: turn, scale, place.
  for (let step = 0; step < 3; step++) {
    await page.getByRole('button', { name: /^Take back/ }).click();
    await expect(page.getByRole('button', { name: /^Do again views of A-102/ })).toBeEnabled();
  }
  await expect(left).toHaveValue(String(before));
  await expect(scale).toHaveValue('1:100');
  await page.getByRole('button', { name: /^Do again/ }).click();
  await expect(left).toHaveValue(String(Math.round((before + 10) * 100) / 100));
  await page.getByRole('button', { name: /^Take back/ }).click();
  await expect(left).toHaveValue(String(before));
});

test('a view of another drawing is put on a sheet, loses a layer, and is taken off', async ({ folvex: page }) => {
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-201/ }).click();
  await page.getByRole('link', { name: 'Open the sheet' }).click();
  const views = page.locator('fx-placed-views rect.view');
  await expect(views.first()).toBeVisible();
  const count = await views.count();
  await page.getByLabel('Drawing', { exact: true }).selectOption('site.dxf');
  await page.getByRole('button', { name: 'Put it on the sheet' }).click();
  await expect(views).toHaveCount(count + 1);
  const panel = page.locator('fx-view-panel');
  await expect(panel).toContainText('site.dxf');
  await expect(panel).toContainText('It came out at 1:');
  const layer = panel.getByRole('checkbox').nth(1);
  await layer.uncheck();
  await expect(page.getByRole('button', { name: /^Take back/ })).toBeEnabled();
  await expect(layer).not.toBeChecked();
  await panel.getByRole('button', { name: 'Take this view off the sheet' }).click();
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
  await page.getByRole('button', { name: /^Take back/ }).click();
  for (const number of ['A-102', 'A-111']) await expect(tile(number)).toContainText('1:100');

  await tile('A-102').click();
  await page.getByRole('button', { name: 'Copy it under the next number' }).click();
  await expect(tile('A-103')).toContainText('Upper floor plan');
  await tile('A-103').click();
  await page.getByRole('button', { name: 'Remove A-103 from the project' }).click();
  await expect(tile('A-103')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Taken back: removal of A-103')).toBeVisible();
  await expect(tile('A-103')).toHaveCount(1);
});
