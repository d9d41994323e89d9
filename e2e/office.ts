import { createHash, randomBytes } from 'node:crypto';
import { rmSync } from 'node:fs';
import { test as base, type Browser, type Page } from '@playwright/test';
import pg from 'pg';
import { startInstance } from '../scripts/lib/instance.mjs';
import { ownFolder } from '../scripts/lib/own-folder.mjs';
import { freePort } from '../scripts/lib/postgres.mjs';

/** A Folvex of an office, and the secret of a link that makes its owner. */
export const test = base.extend<object, { office: { address: string; ownerSecret: string } }>({
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
    { scope: 'worker', timeout: 600_000 },
  ],
});

export const PASSWORD = 'four ferries cross at dawn';

export async function pageOf(browser: Browser, address: string): Promise<Page> {
  return (await browser.newContext({ baseURL: address })).newPage();
}

/** A page on which the owner of the office has joined. */
export async function ownerPage(browser: Browser, office: { address: string; ownerSecret: string }): Promise<Page> {
  const owner = await pageOf(browser, office.address);
  await owner.goto(`/join/${office.ownerSecret}`);
  await owner.getByLabel('Email').fill('oda@office.example');
  await owner.getByLabel('Your name').fill('Oda Vik');
  await owner.getByLabel('Password').fill(PASSWORD);
  await owner.getByRole('button', { name: 'Join' }).click();
  return owner;
}
