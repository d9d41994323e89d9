import { startPlotter } from '../stand-ins/src/index';
import { violations } from './axe';
import { addServer, choose, expect, go, test } from './folvex';

test('a package is looked at as it lies on the roll, and printed until the roll runs out and another one is loaded', async ({
  folvex: page,
}) => {
  const plotter = await startPlotter({ media: [{ kind: 'roll', width: 914, leftMm: 1000 }] });
  const server = await addServer(page, plotter.address);
  await server.getByRole('button', { name: 'Test' }).click();
  await expect(server.getByRole('status')).toContainText('It holds roll 914 mm.');

  await go(page, 'Package');
  const form = page.locator('fx-destinations-panel');
  await choose(page, 'Destination', 'Plotter');
  await choose(form, 'Plotter', 'Server 1');
  await form.getByLabel('Paper', { exact: true }).fill('wide');
  await form.getByLabel('Paper', { exact: true }).blur();
  await expect(form).toContainText('wide is neither the width of a roll in mm nor the name of a paper.');
  const findings = page.getByRole('list', { name: 'Findings' });
  await form.getByLabel('Paper', { exact: true }).fill('297');
  await form.getByLabel('Paper', { exact: true }).press('Enter');
  await expect(findings).toContainText('fits no paper of the plotter');
  await form.getByLabel('Paper', { exact: true }).fill('914');
  await form.getByLabel('Paper', { exact: true }).press('Enter');
  await expect(findings).not.toContainText('fits no paper of the plotter');
  const picture = form.locator('fx-plot-picture');
  await expect(picture).toContainText('9 pieces of paper:');
  await choose(form, 'Pages on a roll', 'side by side, to save paper');
  await expect(picture).toContainText('1 piece of paper:');
  await expect(picture.getByRole('img', { name: /^roll 914 mm, \d\.\d\d m: / })).toBeVisible();
  for (const colorScheme of ['dark', 'light'] as const) {
    await page.emulateMedia({ colorScheme });
    expect(await violations(page)).toEqual([]);
  }

  await page.getByRole('button', { name: 'Publish 1 file, 9 pages' }).click();
  const run = page.getByRole('region', { name: 'Latest run' });
  await expect(run).toContainText('Printing on Server 1: 0 of 1 piece. It waits: out of paper.');
  plotter.queue.load({ kind: 'roll', width: 914, leftMm: 30_000 });
  await expect(run).toContainText(/1 piece of paper printed on Server 1: \d\.\d\d m of roll, \d\.\d\d m²\./);
  const [job] = plotter.queue.jobs;
  expect(job).toMatchObject({ width: 914, pieces: 1, printed: 1 });
  await plotter.stop();
});
