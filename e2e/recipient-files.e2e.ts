import { expect } from '@playwright/test';
import { startMailbox } from '../stand-ins/src/index';
import { violations } from './axe';
import { addServer, choose, go } from './folvex';
import { ownerPage, pageOf, test } from './office';

test('a recipient opens a page with a password, and the office sees what they downloaded', async ({
  browser,
  office,
}) => {
  const post = await startMailbox();
  const owner = await ownerPage(browser, office);
  await owner.getByRole('link', { name: 'Open Tern Quay Ferry Terminal' }).click();
  await addServer(owner, post.address);
  await go(owner, 'Package');
  const form = owner.locator('fx-destinations-panel');
  await choose(owner, 'Destination', 'Email');
  await choose(form, 'Mail server', 'Server 1');
  await form.getByLabel('From').fill('drafting@office.example');
  await form.getByLabel('From').press('Enter');
  await form.getByLabel('To', { exact: true }).fill('check@town.example');
  await form.getByLabel('To', { exact: true }).press('Enter');
  await choose(form, 'Files', 'always on a page');
  await choose(form, 'Password of the page', 'one for each recipient');
  await owner.getByRole('button', { name: 'Publish 1 file, 9 pages' }).click();
  const run = owner.getByRole('region', { name: 'Latest run' });
  await expect(run).toContainText('1 file on a page, linked in an email to check@town.example.');
  await expect(run).toContainText('Not opened yet.');
  await run.getByRole('button', { name: 'Link …' }).click();
  const dialog = owner.getByRole('dialog', { name: 'Page for check@town.example' });
  const password = await dialog.getByText(/^[a-z2-9]{4}-[a-z2-9]{4}-[a-z2-9]{4}$/).innerText();
  expect(await violations(owner)).toEqual([]);
  await dialog.getByRole('button', { name: 'Done' }).click();

  const [mail] = post.mails;
  expect(mail!.attachments).toEqual([]);
  const link = /^http\S+\/files\/\S+$/m.exec(mail!.text!)![0];
  const recipient = await pageOf(browser, office.address);
  await recipient.goto(link);
  expect(await violations(recipient)).toEqual([]);
  await recipient.getByRole('textbox', { name: 'Password' }).fill('not-this-one1');
  await recipient.getByRole('button', { name: 'Show files' }).click();
  await expect(recipient.getByText('The password is wrong; drafting@office.example has the right one.')).toBeVisible();
  await recipient.getByRole('textbox', { name: 'Password' }).fill(password);
  await recipient.getByRole('button', { name: 'Show files' }).click();
  await expect(recipient.getByRole('table', { name: 'Files' })).toContainText('.pdf');
  for (const colorScheme of ['dark', 'light'] as const) {
    await recipient.emulateMedia({ colorScheme });
    expect(await violations(recipient)).toEqual([]);
  }
  const started = recipient.waitForEvent('download');
  await recipient.getByRole('link', { name: /^Download .*\.pdf$/ }).click();
  const path = await (await started).path();
  expect(path).not.toBe('');

  await owner.reload();
  await expect(run).toContainText(/Opened once, \S+ \S+; 1 file downloaded, last \S+ \S+\./);
  await run.getByRole('button', { name: 'Link …' }).click();
  await dialog.getByRole('button', { name: 'Close the page now' }).click();
  await expect(run).toContainText('Page closed on');
  await recipient.reload();
  await expect(recipient.getByRole('alert')).toContainText(
    'These files can no longer be downloaded here. Ask drafting@office.example to send them again.',
  );
  await post.stop();
});
