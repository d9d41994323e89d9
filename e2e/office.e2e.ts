import { createHash, randomBytes } from 'node:crypto';
import { rmSync } from 'node:fs';
import { test as base, expect, type Browser, type Page } from '@playwright/test';
import pg from 'pg';
import { startInstance } from '../scripts/lib/instance.mjs';
import { ownFolder } from '../scripts/lib/own-folder.mjs';
import { freePort } from '../scripts/lib/postgres.mjs';

/** A Folvex of an office, and the secret of a link that makes its owner. */
const test = base.extend<object, { office: { address: string; ownerSecret: string } }>({
  office: [
    async ({}, use) => {
      const data = ownFolder('folvex-e2e-');
      const port = await freePort();
      const address = `http://127.0.0.1:${port}`;
      const instance = await startInstance(data, { settings: { FOLVEX_PORT: String(port), FOLVEX_URL: address } });
      await instance.ready;
      // The console has such a link too; one of our own need not be read from there.
      const ownerSecret = randomBytes(32).toString('base64url');
      const client = new pg.Client(instance.environment['DATABASE_URL']);
      await client.connect();
      const hash = createHash('sha256').update(ownerSecret).digest('hex');
      await client.query(
        `insert into invitations (hash, is_owner, expires_at) values ($1, true, now() + interval '1 hour')`,
        [hash],
      );
      await client.end();
      await use({ address, ownerSecret });
      await instance.remove();
      rmSync(data, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 120_000 },
  ],
});

const PASSWORD = 'four ferries cross at dawn';

async function pageOf(browser: Browser, address: string): Promise<Page> {
  return (await browser.newContext({ baseURL: address })).newPage();
}

test('an office is owned, invites a reader, keeps an audit, and lets nobody else in', async ({ browser, office }) => {
  const owner = await pageOf(browser, office.address);
  await owner.goto('/');
  await expect(owner.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await owner.goto(`/join/${office.ownerSecret}`);
  await owner.getByLabel('Email').fill('oda@office.example');
  await owner.getByLabel('Your name').fill('Oda Vik');
  await owner.getByLabel('Password').fill(PASSWORD);
  await owner.getByRole('button', { name: 'Join' }).click();
  await owner.getByRole('link', { name: 'Open Tern Quay Ferry Terminal' }).click();
  await owner.getByRole('link', { name: 'Settings', exact: true }).click();
  await owner.getByRole('button', { name: 'Members' }).click();
  await owner.getByLabel('Email').fill('rut@office.example');
  await owner.getByRole('combobox', { name: 'Role' }).click();
  await owner.getByRole('option', { name: 'Reader' }).click();
  await owner.getByRole('button', { name: 'Invite', exact: true }).click();
  const link = await owner.getByText(`${office.address}/join/`).innerText();

  const reader = await pageOf(browser, office.address);
  await reader.goto(link);
  await expect(reader.getByText('You can view and download everything.')).toBeVisible();
  await reader.getByLabel('Your name').fill('Rut Lund');
  await reader.getByLabel('Password').fill(PASSWORD);
  await reader.getByRole('button', { name: 'Join' }).click();
  await reader.getByRole('link', { name: 'Open Tern Quay Ferry Terminal' }).click();
  await expect(reader.getByText('Read only')).toBeVisible();
  await reader.getByRole('link', { name: 'Settings', exact: true }).click();
  await reader.getByLabel('Client').fill('Somebody else');
  await reader.getByLabel('Client').press('Enter');
  await expect(
    reader.getByText('This needs the drafter role in the project; ask a project lead for it.'),
  ).toBeVisible();
  await expect(reader.getByRole('button', { name: 'Audit' })).toBeHidden();

  await owner.getByRole('button', { name: 'Audit' }).click();
  const audit = owner.getByRole('table', { name: 'Audit' });
  await expect(audit.getByRole('row').filter({ hasText: 'Rut Lund' })).toContainText(
    'Accepted an invitation: as reader',
  );
  await owner.getByRole('link', { name: 'Account' }).click();
  await owner.getByRole('button', { name: 'Sign out' }).click();
  await expect(owner.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await owner.getByLabel('Email').fill('Oda@office.example');
  await owner.getByLabel('Password').fill('not this one at all');
  await owner.getByRole('button', { name: 'Sign in' }).click();
  await expect(owner.getByText('The email address or the password is wrong.')).toBeVisible();
  await owner.getByLabel('Password').fill(PASSWORD);
  await owner.getByRole('button', { name: 'Sign in' }).click();
  await expect(owner.getByRole('heading', { name: 'Projects' })).toBeVisible();
});
