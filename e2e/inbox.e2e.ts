import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { violations } from './axe';
import { chooseSheet, drawing, expect, go, test } from './folvex';

test.use({ settings: { FOLVEX_QUIET_MINUTES: '0' } });

test('a newer version comes in through the inbox, a held view is out of date, and a package publishes by itself', async ({
  folvex: page,
  data,
}) => {
  const send = (name: string, text: string): void => {
    const folder = join(data, 'inbox', 'structures');
    mkdirSync(folder, { recursive: true });
    writeFileSync(join(folder, name), text);
  };
  await page.getByRole('link', { name: 'Settings', exact: true }).click();
  await page.getByRole('navigation', { name: 'Settings' }).getByRole('button', { name: 'Inboxes' }).click();
  await page.getByRole('button', { name: 'Add an inbox' }).click();
  const enter = async (field: string, text: string): Promise<void> => {
    await page.getByLabel(field).fill(text);
    await page.getByLabel(field).press('Enter');
  };
  await enter('Name of Inbox 1', 'Structures');
  await enter('Folder of Structures', 'structures');
  await enter('Version mark in file names', '_P');
  await expect(page.locator('fx-inboxes-panel li')).toContainText(/Structures: .*inbox.structures/);
  expect(await violations(page)).toEqual([]);

  await go(page, 'Gather');
  send('pontoon_P01.dxf', drawing(4, 'Pontoon').toString());
  const inbox = page.locator('fx-inbox-panel');
  await expect(inbox).toContainText('pontoon_P01.dxf is a new drawing.');
  await inbox.getByRole('button', { name: 'Add to the drawings' }).click();
  const card = page.locator('fx-drawing-card').filter({ hasText: 'pontoon_P01.dxf' });
  await card.getByRole('button', { name: 'Create sheet' }).click();
  const panel = page.locator('fx-new-sheet-panel');
  for (const number of ['P-01', 'P-02']) {
    await panel.getByLabel('Number').fill(number);
    await panel.getByRole('button', { name: 'Create sheet' }).click();
    await expect(panel).toContainText(`Sheet ${number} is on the wall`);
  }
  await go(page, 'Sheets');
  const [live, held] = [page.getByRole('option', { name: /P-01/ }), page.getByRole('option', { name: /P-02/ })];
  await chooseSheet(held, page.getByRole('button', { name: 'Hold' }));
  await page.getByRole('button', { name: 'Hold' }).click();
  await expect(page.getByText('held at version 1')).toBeVisible();

  // A package of the sheet that follows, published whenever something changes.
  const project = page.url().replace(/\/projects\/([^/]+).*/, '/api/projects/$1');
  type Facts = { sheets: { id: string; number: string }[]; runs: { packageName: string; state: string }[] };
  const facts = async (): Promise<Facts> => (await (await page.request.get(project)).json()) as Facts;
  const { sheets } = await facts();
  const { pack } = (await (await page.request.post(`${project}/packages`, { data: { name: 'Pontoon' } })).json()) as {
    pack: { id: string };
  };
  const order = sheets.filter(({ number }) => number === 'P-01').map(({ id }) => id);
  await page.request.patch(`${project}/packages/${pack.id}`, { data: { publishes: 'change', order } });
  const published = async (): Promise<number> =>
    (await facts()).runs.filter(({ packageName, state }) => packageName === 'Pontoon' && state === 'done').length;

  send('pontoon_P02.dxf', drawing(4, 'Pontoon, wider').toString());
  // Whichever place is open, it is told.
  await expect(page.getByText('pontoon_P02.dxf arrived in the inbox Structures.')).toBeVisible();
  await page.locator('fx-notice').getByRole('button', { name: 'Show' }).click();
  await expect(inbox).toContainText('pontoon_P02.dxf differs from version 1 of pontoon_P01.dxf, shown on 2 sheets.');
  expect(await violations(page)).toEqual([]);
  await inbox.getByRole('button', { name: 'See what changes' }).click();
  const changes = page.locator('fx-changes-panel');
  await expect(changes).toContainText('P-02 (out of date)');
  const before = await published();
  await changes.getByRole('button', { name: 'Take as version 2' }).click();
  await expect(inbox).toContainText('Inboxes: 2 files');
  await go(page, 'Sheets');
  await expect(held).toContainText('out of date');
  await expect(live).not.toContainText('out of date');
  // It may be done before the window is told that it began.
  await expect(page.getByText(/^Pontoon is (being published by its schedule\.|published: 1 file)/)).toBeVisible();
  await expect.poll(published).toBe(before + 1);
});
