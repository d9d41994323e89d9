import { readFileSync } from 'node:fs';
import type { ProjectInfo } from '@folvex/contract';
import { choose, expect, go, names, strip, test } from './folvex';

type Page = Parameters<typeof go>[0];

async function projectOf(page: Page, address: string): Promise<ProjectInfo> {
  const [project] = (await (await page.request.get(`${address}/api/projects`)).json()) as { id: string }[];
  return (await (await page.request.get(`${address}/api/projects/${project!.id}`)).json()) as ProjectInfo;
}

test('a list of sheets and a divider are pages of the package; what is left out stays in its place', async ({
  folvex: page,
}) => {
  await go(page, 'Package');
  await expect(page.getByRole('listitem', { name: /A-502/ })).toBeVisible();
  const before = await strip(page);
  await page.getByRole('button', { name: 'Insert list of sheets' }).click();
  await expect(page.getByRole('button', { name: 'Publish 1 file, 10 pages' })).toBeVisible();
  await page.getByRole('listitem', { name: /A-501/ }).focus();
  await page.getByRole('button', { name: 'Insert divider' }).click();
  await page.getByLabel('Title', { exact: true }).fill('Details');
  await page.getByLabel('Title', { exact: true }).press('Enter');
  await page.getByRole('listitem', { name: /A-102/ }).focus();
  await page.getByRole('checkbox', { name: 'Leave out' }).check();
  const at = before.indexOf('A-501');
  await expect.poll(() => strip(page)).toEqual(['00', ...before.slice(0, at), 'D1', ...before.slice(at)]);
  await expect(page.getByRole('listitem', { name: /^Left out, at \d+, A-102/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Publish 1 file, 10 pages' })).toBeVisible();
  // A page that is to stay behind another does, wherever that one goes.
  await page.getByRole('listitem', { name: /A-301/ }).focus();
  await choose(page, 'Keep after page', 'A-001 Site plan');
  const order = await strip(page);
  expect(order[order.indexOf('A-001') + 1]).toBe('A-301');
  await page.getByRole('button', { name: 'Sort by number' }).click();
  await expect
    .poll(async () => (await strip(page)).filter((number) => /^A-[14]/.test(number)))
    .toEqual(['A-101', 'A-102', 'A-401']);
  const sorted = await strip(page);
  expect(sorted[sorted.indexOf('A-001') + 1]).toBe('A-301');
});

test('two files of one name are told apart from their finding, with one press', async ({ folvex: page }) => {
  await go(page, 'Package');
  await page.getByRole('radio', { name: /^Tender/ }).click();
  const rule = page.getByLabel('File name');
  await rule.fill('[project.number]');
  const finding = page.getByRole('list', { name: 'Findings' }).getByRole('listitem').first();
  await expect(finding).toContainText('Two files of one name');
  await expect(finding).toContainText('would both be written as');
  await expect(page.getByRole('button', { name: /^Publish/ })).toBeDisabled();
  await finding.getByRole('button', { name: /^Use / }).first().click();
  await expect(rule).toHaveText('[page > pad 3] [project.number]');
  await expect.poll(async () => (await names(page)).filter((name) => name.endsWith('.pdf'))[0]).toBe('001 2617.pdf');
  await expect(page.getByRole('button', { name: /^Publish 8 files/ })).toBeEnabled();
});

test('blank fields are found, and filled in on the sheets that their findings lead to, one after the other', async ({
  folvex: page,
  address,
}) => {
  const { id, sheets } = await projectOf(page, address);
  for (const blank of ['A-202', 'A-301']) {
    const sheet = sheets.find(({ number }) => number === blank)!;
    await page.request.patch(`${address}/api/projects/${id}/sheets/${sheet.id}`, { data: { title: '' } });
  }
  await page.reload();
  await go(page, 'Package');
  await page.getByRole('radio', { name: /^Tender/ }).click();
  await page.getByLabel('File name').fill('[sheet.number] [sheet.title]');
  const finding = page.getByRole('listitem').filter({ hasText: '[sheet.title] is blank for A-301' });
  await finding.getByRole('link', { name: 'Open A-301' }).click();
  const steps = page.getByRole('region', { name: 'Finding' });
  await expect(steps).toContainText('[sheet.title] is blank for A-301');
  const title = page.getByLabel('Title', { exact: true }).first();
  await expect(title).toBeFocused();
  await title.fill('Section A-A');
  await title.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo title of A-301/ })).toBeEnabled();
  await steps.getByRole('link', { name: 'Next finding: A-202' }).click();
  await expect(steps).toContainText('[sheet.title] is blank for A-202');
  await expect(title).toBeFocused();
  await title.fill('Elevation east');
  await title.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo title of A-202/ })).toBeEnabled();
  await steps.getByRole('link', { name: 'Back to the package' }).click();
  await expect(page).toHaveURL(/\/packages\//);
  await expect(finding).toHaveCount(0);
  await expect.poll(() => names(page)).toContain('A-301 Section A-A.pdf');
  await page.goBack();
  await expect(title).toHaveValue('Elevation east');
  await expect(steps).toHaveCount(0);
});

test('a finding is accepted with a reason, which stays; a project may not look for it at all', async ({
  folvex: page,
}) => {
  await go(page, 'Package');
  await page.getByRole('radio', { name: /^Permit set/ }).click();
  const sizes = page.getByRole('listitem').filter({ hasText: 'pages of 3 sizes' });
  await sizes.getByRole('button', { name: 'Accept …' }).click();
  await page.getByLabel('Reason for accepting').fill('Agreed with the printer');
  await page.getByLabel('Reason for accepting').press('Enter');
  await expect(sizes).toContainText('Accepted: Agreed with the printer');
  await page.reload();
  await expect(sizes).toContainText('Accepted: Agreed with the printer');
  await page.getByRole('navigation').getByRole('link', { name: 'Settings' }).click();
  await page.getByRole('navigation', { name: 'Settings' }).getByRole('button', { name: 'Checks' }).click();
  await choose(page, 'Weight of Pages of several sizes in one file', 'off');
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeEnabled();
  await go(page, 'Package');
  await expect(page.getByRole('list', { name: 'Findings' })).toBeVisible();
  await expect(sizes).toHaveCount(0);
});

test('the same run twice writes the same files; each is read again, and reported', async ({
  folvex: page,
  address,
}) => {
  const hashes: string[][] = [];
  for (const count of [1, 2]) {
    await go(page, 'Package');
    await page.getByRole('radio', { name: /^Tender/ }).click();
    await page.getByRole('button', { name: /^Publish/ }).click();
    const done = async () => (await projectOf(page, address)).runs.filter(({ state }) => state === 'done');
    await expect.poll(async () => (await done()).length).toBe(count);
    hashes.push((await done())[0]!.files.map(({ sha256 }) => sha256));
    await expect(page.getByText('Read again and found as it should be: 8 pages')).toBeVisible();
  }
  expect(hashes[1]).toEqual(hashes[0]);
  const saving = page.waitForEvent('download');
  await page.getByRole('link', { name: 'CSV' }).click();
  const csv = readFileSync(await (await saving).path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(csv).toHaveLength(9);
  for (const line of csv.slice(1)) expect(line).toContain('as it should be');
});

test('a rule is completed while it is written, and blank fields are left out by choice', async ({ folvex: page }) => {
  await go(page, 'Package');
  await page.getByRole('radio', { name: /^Tender/ }).click();
  const rule = page.getByLabel('File name');
  await rule.fill('');
  await rule.pressSequentially('[sheet.n');
  await expect(page.getByRole('option', { name: /^sheet\.number/ })).toHaveAttribute('aria-selected', 'true');
  await rule.press('Enter');
  await expect(rule).toHaveText('[sheet.number]');
  await rule.pressSequentially('_[project.client > up');
  await rule.press('Tab');
  await rule.press('End');
  await rule.pressSequentially(']');
  await expect(rule).toHaveText('[sheet.number]_[project.client > upper]');
  await expect.poll(async () => (await names(page))[0]).toBe('A-101_TERN QUAY HARBOUR TRUST.pdf');
  // No revision on some sheets, say: the field and what stands before it go.
  await rule.fill('[sheet.number]_[group.missing]');
  await expect(page.getByText('[group.missing], which does not exist').first()).toBeVisible();
  await page.getByRole('button', { name: 'Ready rules' }).click();
  await page.getByRole('menuitem', { name: /^Number and title/ }).click();
  await expect(rule).toHaveText('[sheet.number] [sheet.title]');
});

test('sheets are picked by filters; a page is printed smaller and twice, as its files say', async ({
  folvex: page,
}) => {
  await go(page, 'Package');
  await page.getByRole('radio', { name: /^Permit set/ }).click();
  await page.getByRole('button', { name: 'New package' }).click();
  await page.getByLabel('Name of the new package').fill('Half size');
  await page.getByLabel('Name of the new package').press('Enter');
  await page.getByRole('button', { name: 'Add the first sheets' }).click();
  await page.getByLabel('Number or title').fill('a-5');
  await page.getByRole('button', { name: 'Add all 2' }).click();
  await expect.poll(() => strip(page)).toEqual(['A-501', 'A-502']);
  await page.getByRole('listitem', { name: /A-501/ }).focus();
  await choose(page.locator('fx-page-options'), 'Paper', 'A3');
  await page.getByLabel('Copies').fill('2');
  await page.getByLabel('Copies').press('Tab');
  await expect(page.getByText('A-501 is not to scale: Half scale: A1').first()).toBeVisible();
  await page.getByRole('button', { name: 'Publish 1 file, 3 pages' }).click();
  await expect(page.getByText(/Read again and found as it should be: 3 pages/)).toBeVisible();
  await page.getByText('How the time went').click();
  await expect(page.getByText(/2 sheets by 1 worker/)).toBeVisible();
  await expect(page.locator('fx-run-timeline svg text', { hasText: 'worker 1' })).toBeVisible();
});
