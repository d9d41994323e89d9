import { startMailbox } from '../stand-ins/src/index';
import { addServer, choose, expect, go, test } from './folvex';

test('a package is mailed to people of the project, and says who did not get it', async ({ folvex: page }) => {
  const post = await startMailbox();
  await page.getByRole('link', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'People', exact: true }).click();
  for (const [name, mail] of [
    ['Site office', 'site@quay.example'],
    ['Plan room', 'gone@quay.example'],
  ] as const) {
    await page.getByRole('button', { name: 'Add a person' }).click();
    const row = page.getByRole('table', { name: 'People' }).getByRole('row').last();
    for (const [at, value] of [name, 'Quay Builders', mail].entries()) {
      await row.getByRole('textbox').nth(at).fill(value);
      await row.getByRole('textbox').nth(at).press('Enter');
    }
  }
  const server = await addServer(page, post.address);
  await server.getByLabel('User').fill('drafting');
  await server.getByLabel('User').press('Enter');
  await server.getByLabel('Password').fill('secret');
  await server.getByLabel('Password').press('Enter');
  await expect(server.getByLabel('Password')).toHaveAttribute('placeholder', 'set; type to replace');
  await server.getByRole('button', { name: 'Test' }).click();
  await expect(server.getByRole('status')).toContainText('Signed in as drafting.');

  await go(page, 'Package');
  const form = page.locator('fx-destinations-panel');
  await choose(page, 'Destination', 'Email');
  await choose(form, 'Mail server', 'Server 1');
  const findings = page.getByRole('list', { name: 'Findings' });
  await expect(findings).toContainText('The email has no recipient');
  await form.getByLabel('From').fill('drafting@office.example');
  await form.getByLabel('From').press('Enter');
  await form.getByLabel('To', { exact: true }).fill('Quay Builder');
  await form.getByLabel('To', { exact: true }).blur();
  await expect(form).toContainText('Quay Builder is neither an email address nor a person or firm of this project.');
  await form.getByLabel('To', { exact: true }).fill('Quay Builders');
  await form.getByLabel('To', { exact: true }).press('Enter');
  await form.getByLabel('Text').click();
  await page.keyboard.type('Dear all,');
  await page.keyboard.press('Enter');
  await page.keyboard.type('[package.na');
  await page.keyboard.press('Enter');
  await page.keyboard.type(' for you.');
  await expect(findings).not.toContainText('The email has');
  await page.getByRole('button', { name: 'Publish 1 file, 9 pages' }).click();
  const run = page.getByRole('region', { name: 'Latest run' });
  await expect(run).toContainText('1 file in an email to site@quay.example.');
  await expect(run).toContainText('Server 1 refused the email to gone@quay.example (550 no such mailbox)');
  expect(post.mails).toHaveLength(1);
  const { subject, text, attachments } = post.mails[0]!;
  expect(subject).toBe('2617 Tern Quay Ferry Terminal: Permit set');
  expect(text).toMatch(/^Dear all,\nPermit set for you\.\n\n\S.*\.pdf \(\d+ kB\)\n$/);
  expect(attachments.map(({ contentType }) => contentType)).toEqual(['application/pdf']);
  // Whoever wants none of it any more downloads again.
  await choose(page, 'Destination', 'Download');
  await expect(page.getByText('Saving …')).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('combobox', { name: 'Destination' })).toHaveText('Download');
  await post.stop();
});
