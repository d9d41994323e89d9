import { rmSync } from 'node:fs';
import { startSshd } from '../press/test/support/peers';
import { ownFolder } from '../scripts/lib/own-folder.mjs';
import { addServer, choose, expect, go, test } from './folvex';

test('a package is published to an SFTP server that has another file of its name, and replaces nothing', async ({
  folvex: page,
}) => {
  const folder = ownFolder('folvex-e2e-sftp-');
  const peer = await startSshd(folder);
  const { address, user, secret, fingerprint } = peer.login;
  const server = await addServer(page, address);
  await server.getByLabel('User').fill(user);
  await server.getByLabel('User').press('Enter');
  await server.getByLabel('Password or private key').fill(secret);
  await server.getByLabel('Password or private key').press('Enter');
  await expect(server.getByLabel('Password or private key')).toHaveAttribute('placeholder', 'set; type to replace');
  // Nobody signs in before the key that the server shows is accepted; it is the one that ssh-keygen prints.
  await server.getByRole('button', { name: 'Test' }).click();
  await expect(server.getByRole('status')).toContainText(fingerprint!);
  await server.getByRole('button', { name: 'Accept this host key' }).click();
  await expect(server).toContainText(`Accepted host key: ${fingerprint}`);
  await server.getByRole('button', { name: 'Test' }).click();
  await expect(server.getByRole('status')).toContainText(`Signed in as ${user}.`);

  await go(page, 'Package');
  const file = page.locator('fx-output-tree .name').filter({ hasText: '.pdf' });
  await expect(file).toHaveCount(1);
  const name = (await file.textContent())!.trim();
  await peer.place(`2617/${name}`, 'theirs');
  const form = page.locator('fx-destinations-panel');
  await choose(page, 'Destination', 'Transfer server');
  await choose(form, 'Server', 'Server 1');
  await expect(form).toContainText(/sftp:\/\/127\.0\.0\.1:\d+\/\S*2617/);
  const finding = page.getByRole('list', { name: 'Findings' }).getByRole('listitem').first();
  await expect(finding).toContainText(`stop: ${name} is at the destination already`);
  await expect(page.getByRole('button', { name: /^Publish/ })).toBeDisabled();
  await finding.getByRole('button', { name: 'Keep both' }).click();
  await page.getByRole('button', { name: 'Publish 1 file, 9 pages' }).click();
  const run = page.getByRole('region', { name: 'Latest run' });
  await expect(run).toContainText(/1 file at sftp:\/\/\S*2617/);
  const numbered = name.replace(/\.pdf$/, ' (2).pdf');
  expect(peer.names('2617').sort()).toEqual([name, numbered].sort());
  expect(String(peer.content(`2617/${name}`))).toBe('theirs');
  expect(String(peer.content(`2617/${numbered}`)!.subarray(0, 5))).toBe('%PDF-');
  await peer.stop();
  rmSync(folder, { recursive: true, force: true });
});
