import type { Locator, Page } from '@playwright/test';
import { drawing, expect, names, strip, test } from './folvex';

/** Presses Tab until an element has the focus, as somebody without a mouse does. */
async function tabTo(page: Page, wanted: Locator): Promise<void> {
  await wanted.first().waitFor();
  for (let press = 0; press < 150; press++) {
    if (await wanted.first().evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab does not lead to ${String(wanted)}`);
}

test('a drawing comes in, becomes a sheet, is published and issued by keyboard alone', async ({
  folvex: page,
  address,
}) => {
  const { keyboard } = page;
  // From the start: the browser takes a moment to be told not to open its own dialog, and a key does not wait for it.
  page.on('filechooser', () => undefined);
  await page.goto(address);
  await tabTo(page, page.getByRole('link', { name: 'Open Tern Quay Ferry Terminal' }));
  await keyboard.press('Enter');
  await page.getByRole('option', { name: /A-101/ }).waitFor();

  await keyboard.press('1');
  await tabTo(page, page.getByRole('button', { name: 'Add drawings' }));
  const chooser = page.waitForEvent('filechooser');
  await keyboard.press('Enter');
  await (await chooser).setFiles([{ name: 'shed.dxf', mimeType: 'image/vnd.dxf', buffer: drawing(4) }]);
  const card = page.locator('fx-drawing-card').filter({ hasText: 'shed.dxf' });
  await tabTo(page, card.getByRole('button', { name: 'Create sheet' }));
  await keyboard.press('Enter');
  const panel = page.locator('fx-new-sheet-panel');
  await tabTo(page, panel.getByLabel('Number'));
  await keyboard.press('Control+a');
  await keyboard.type('S-001');
  await tabTo(page, panel.getByRole('button', { name: /^Create/ }));
  await keyboard.press('Enter');
  await expect(page.locator('fx-notice')).toContainText('S-001 Shed created.');

  // The sheet is opened from the wall, and its view moved by a millimetre.
  await keyboard.press('Control+k');
  await expect(page.getByRole('combobox', { name: 'Quick search' })).toBeFocused();
  await keyboard.type('S-001');
  await keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: /^S-001/ })).toBeVisible();
  await tabTo(page, page.locator('fx-placed-views [tabindex="0"]'));
  await keyboard.press('Enter');
  await keyboard.press('ArrowRight');
  await expect(page.getByRole('button', { name: /^Undo views of S-001/ })).toBeEnabled();

  // The first page of the package becomes its second; files are named by a rule.
  await keyboard.press('4');
  await tabTo(page, page.locator('fx-page-strip .page[tabindex="0"]'));
  const before = await strip(page);
  await keyboard.press('Shift+ArrowRight');
  await expect.poll(() => strip(page)).toEqual([before[1], before[0], ...before.slice(2)]);
  await tabTo(page, page.getByRole('radio', { name: 'One file' }));
  await keyboard.press('ArrowRight');
  await expect(page.getByRole('radio', { name: 'A file per sheet' })).toBeChecked();
  await tabTo(page, page.getByLabel('File name'));
  await keyboard.press('Control+a');
  await keyboard.type('[sheet.nu');
  await keyboard.press('Enter');
  await expect.poll(() => names(page)).toContain('A-101.pdf');
  const publish = page.getByRole('button', { name: 'Publish 9 files, 9 pages' });
  await tabTo(page, publish);
  await keyboard.press('Enter');
  await expect(page.locator('fx-notice')).toContainText('Permit set is published');
  // The button is where it was, and still has the focus.
  await expect(publish).toBeFocused();

  await tabTo(page, page.getByRole('link', { name: 'Look at it' }));
  await keyboard.press('Enter');
  await page.locator('.sheet[data-painted]').waitFor();
  await tabTo(page, page.getByRole('button', { name: /^A-102\.pdf/ }));
  await keyboard.press('Enter');
  await expect(page).toHaveURL(/[?&]file=[2-9]/);

  await keyboard.press('6');
  await tabTo(page, page.getByRole('button', { name: 'Issue a run' }));
  await keyboard.press('Enter');
  await tabTo(page, page.getByLabel('Purpose'));
  await keyboard.type('Permit');
  await keyboard.press('Tab');
  await expect(page.getByLabel('Recipients, separated by commas')).toBeFocused();
  await keyboard.type('Plan checker');
  await tabTo(page, page.getByRole('button', { name: 'Issue', exact: true }));
  await keyboard.press('Enter');
  await expect(page.getByRole('table', { name: 'Issue register' })).toContainText('A-101');
});

test('the demo is published under a rule of its own in five actions', async ({ folvex: page, address }) => {
  await page.goto(address);
  let actions = 0;
  const act = async (action: Promise<unknown>): Promise<void> => {
    await action;
    actions++;
  };
  await act(page.getByRole('link', { name: 'Open Tern Quay Ferry Terminal' }).click());
  await act(page.getByRole('link', { name: 'Package' }).click());
  await act(page.getByRole('radio', { name: 'A file per sheet' }).click());
  await act(page.getByLabel('File name').fill('[sheet.number]_[sheet.title > upper]'));
  await expect.poll(() => names(page)).toContain('A-101_GROUND FLOOR PLAN.pdf');
  await act(page.getByRole('button', { name: 'Publish 9 files, 9 pages' }).click());
  await expect(page.locator('fx-notice')).toContainText('Permit set is published: 9 files, 9 pages.');
  expect(actions).toBeLessThanOrEqual(6);
});

test('a package is published from the wall with seven keys, and the focus is in the place that shows the run', async ({
  folvex: page,
}) => {
  const { keyboard } = page;
  await tabTo(page, page.getByRole('option').first());
  await keyboard.press('Control+k');
  await expect(page.getByRole('combobox', { name: 'Quick search' })).toBeFocused();
  for (const key of 'publi') await keyboard.press(key);
  await expect(page.getByRole('option').first()).toContainText('Publish Permit set');
  await keyboard.press('Enter');
  await expect(page.locator('fx-notice')).toContainText(/Permit set is published: \d+ files?, \d+ pages\./);
  await expect(page).toHaveURL(/\/packages\//);
  expect(await page.evaluate(() => document.activeElement?.closest('main') !== null)).toBe(true);
});
