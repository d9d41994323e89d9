import type { ProjectInfo } from '@folvex/contract';
import type { Page } from '@playwright/test';
import { choose, drawing, expect, go, test } from './folvex';

const settings = async (page: Page, section: string): Promise<void> => {
  await page.getByRole('navigation').getByRole('link', { name: 'Settings' }).click();
  await page.getByRole('navigation', { name: 'Settings' }).getByRole('button', { name: section, exact: true }).click();
};

/** The first project as the server tells of it. */
async function project(page: Page, address: string): Promise<ProjectInfo> {
  const [first] = (await (await page.request.get(`${address}/api/projects`)).json()) as { id: string }[];
  return (await (await page.request.get(`${address}/api/projects/${first!.id}`)).json()) as ProjectInfo;
}

test('a drawing becomes a sheet that is ready to publish in fewer than fifteen actions', async ({ folvex: page }) => {
  let actions = 0;
  const act = async (done: Promise<unknown>): Promise<void> => {
    actions++;
    await done;
  };
  await act(go(page, 'Gather'));
  const file = { name: 'boat-shed.dxf', mimeType: 'application/octet-stream', buffer: drawing() };
  await act(page.getByLabel('Drawing files').setInputFiles([file]));
  const card = page.locator('fx-drawing-card').filter({ hasText: 'boat-shed.dxf' });
  await act(card.getByRole('button', { name: 'mm', exact: true }).click());
  await act(card.getByRole('button', { name: 'Create sheet' }).click());
  const panel = page.locator('fx-new-sheet-panel');
  await act(panel.getByLabel('Number').fill('A-120'));
  await act(panel.getByRole('button', { name: 'Create sheet' }).click());
  await expect(panel).toContainText('Sheet A-120 is on the wall');
  await act(go(page, 'Sheets'));
  await act(page.getByRole('option', { name: /A-120/ }).dblclick());
  const sheet = page.locator('fx-sheet-panel');
  const type = async (label: string, value: string): Promise<void> => {
    await sheet.getByLabel(label).fill(value);
    await sheet.getByLabel(label).blur();
  };
  await expect(page.locator('fx-placed-views rect.blank')).toHaveCount(4);
  await act(type('Creator', 'I. Brandt'));
  await act(type('Approval person', 'O. Lindqvist'));
  await act(type('Document type', 'Drawing'));
  await act(type('Revision', 'P01'));
  await act(type('Date', '2026-11-25'));
  // Nothing is left to be filled in: the owner, for one, came from the project.
  await expect(page.locator('fx-placed-views rect.blank')).toHaveCount(0);
  expect(actions).toBeLessThan(15);
});

test('forty sheets go from A1 to A3 in one step, and back in one', async ({ folvex: page, address }) => {
  const { id, sheets } = await project(page, address);
  const large = sheets.filter(({ paper }) => paper && 'name' in paper && paper.name === 'A1');
  for (let i = large.length; i < 40; i++) {
    await page.request.post(`${address}/api/projects/${id}/sheets/${large[0]!.id}/copies`, { data: {} });
  }
  const papers = async (): Promise<string[]> =>
    (await project(page, address)).sheets.map(({ paper }) => (paper && 'name' in paper ? paper.name : ''));
  const before = await papers();
  expect(before.filter((name) => name === 'A1').length).toBeGreaterThanOrEqual(40);
  await page.reload();
  await go(page, 'Sheets');
  await page.getByRole('option').first().click();
  await page.keyboard.press('Control+a');
  const panel = page.locator('fx-several-panel');
  await choose(panel, 'Paper', /^A3 .*landscape$/);
  await panel.getByRole('button', { name: /^Set on \d+ sheets/ }).click();
  await expect(page.getByRole('button', { name: /^Undo paper of/ })).toBeEnabled();
  expect(new Set(await papers())).toEqual(new Set(['A3']));
  await page.getByRole('button', { name: /^Undo paper of/ }).click();
  await expect(page.getByText(/^Undone: paper of/)).toBeVisible();
  expect(await papers()).toEqual(before);
});

test('everything is undone back to the start: sheets, settings, and notes', async ({ folvex: page, address }) => {
  const start = await project(page, address);
  await settings(page, 'Sheet fields');
  await page.getByRole('button', { name: 'Add a field' }).click();
  await expect(page.getByRole('table', { name: 'Sheet fields' }).getByRole('row')).toHaveCount(2);
  await settings(page, 'Papers and plotters');
  await choose(page, 'Plotter of the project', /sheet/i);
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-102/ }).dblclick();
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  await expect(page.locator('fx-note-panel')).toContainText('Rows as CSV');
  await page.locator('fx-placed-views rect.view').first().focus();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Delete');
  await expect(page.getByText('Saving …')).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Undo views of A-102/ })).toBeEnabled();
  expect(await project(page, address)).not.toEqual(start);
  const words: string[] = [];
  for (;;) {
    // Two of the steps are called the same: only the server tells which is next.
    const { undo } = (await project(page, address)).history;
    if (undo === start.history.undo) break;
    words.push(undo!);
    const undone = page.waitForResponse((response) => response.url().endsWith('/undo') && response.ok());
    await page.getByRole('button', { name: `Undo ${undo}`, exact: true }).click();
    await undone;
    await expect(page.getByText(`Undone: ${undo}`)).toBeVisible();
  }
  const back = await project(page, address);
  expect({ ...back, history: null }).toEqual({ ...start, history: null });
  expect(words).toHaveLength(5);
});

test('settings go from one project to another by name, clashes shown', async ({ folvex: page }) => {
  await settings(page, 'Text styles');
  await page.getByRole('button', { name: 'Add a style' }).click();
  const name = page.getByLabel('Name of Style 2');
  await name.fill('Room names');
  await name.press('Enter');
  await expect(page.getByLabel('Name of Room names')).toBeVisible();

  // Edits of one project are saved before another one is opened.
  await page.getByRole('link', { name: 'Projects' }).click();
  await page.getByRole('button', { name: 'New project' }).click();
  await page.getByLabel('Project number').fill('2701');
  await page.getByLabel('Project name').fill('Tern Quay, second phase');
  await page.getByRole('button', { name: 'Create project' }).click();
  await expect(page.getByRole('banner')).toContainText('2701');
  const take = async (): Promise<void> => {
    await settings(page, 'From another project');
    await choose(page.locator('fx-take-over'), 'Project', '2617 Tern Quay Ferry Terminal');
  };
  await take();
  await page.getByRole('checkbox', { name: 'Copy text style Room names' }).check();
  await page.getByRole('checkbox', { name: 'Copy group Site and plans' }).check();
  await page.getByRole('checkbox', { name: 'Copy naming rules Permit set' }).check();
  await page.getByRole('button', { name: 'Copy 3 settings' }).click();
  await expect(page.getByRole('checkbox', { name: 'Copy text style Room names' })).toBeDisabled();

  // Changed here, it is another one: both may stay.
  await settings(page, 'Text styles');
  const height = page.getByLabel('Height of capitals, mm of Room names');
  await height.fill('4');
  await height.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo text style Room names/ })).toBeEnabled();
  await take();
  const row = page.getByRole('row').filter({ hasText: 'Room names' });
  await expect(row).toContainText('has another one of that name');
  await row.getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Copy 1 setting' }).click();
  await settings(page, 'Text styles');
  await expect(page.getByLabel('Name of Room names (2)')).toBeVisible();
  await expect(page.getByLabel('Name of Room names', { exact: true })).toBeVisible();
  await choose(page.getByRole('banner'), 'Project', '2617 Tern Quay Ferry Terminal');
  await expect(page.getByRole('banner')).toContainText('Tern Quay Harbour Trust');
});

test('a title block of the office is changed in place, and its sheets follow', async ({ folvex: page }) => {
  await settings(page, 'Title blocks');
  await page.getByRole('button', { name: 'Duplicate to edit' }).click();
  await page.getByRole('button', { name: 'Cell Client' }).click();
  const text = page.getByLabel('Text and fields');
  await expect(text).toHaveValue('[project.client]');
  await text.fill('[project.client');
  await text.press('Enter');
  await expect(page.getByText('is never closed')).toBeVisible();
  await text.fill('For [project.client > upper]');
  await text.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo title block / })).toBeEnabled();
  await expect(page.getByText('Saving …')).toHaveCount(0);
  await expect(text).toHaveValue('For [project.client > upper]');
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-102/ }).dblclick();
  await choose(page.locator('fx-sheet-panel'), 'Title block', 'Corner block, ours');
  await expect(page.getByRole('button', { name: /^Undo title block of A-102/ })).toBeEnabled();

  // Its sheet becomes what the group says; another one deviates and is set back.
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-102/ }).click();
  await page.getByRole('button', { name: 'Apply these settings to Site and plans' }).click();
  const other = page.getByRole('option', { name: /A-101/ });
  await expect(other).toContainText('other title block');
  await other.click();
  await expect(page.locator('fx-group-settings')).toContainText('It deviates from the group: title block.');
  await page.getByRole('button', { name: 'Set it as the group has it' }).click();
  await expect(other).not.toContainText('other title block');
});
