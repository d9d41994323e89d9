import { readFileSync } from 'node:fs';
import { unzipSync, zipSync } from 'fflate';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { Issue } from '@folvex/core';
import { choose, expect, go, test } from './folvex';

/** Publishes a package and waits until it is done. */
async function publish(page: Parameters<typeof go>[0], name: RegExp): Promise<void> {
  await go(page, 'Package');
  await page.getByRole('radio', { name }).click();
  await page.getByRole('button', { name: /^Publish/ }).click();
  await expect(page.getByText(/ is published: /)).toBeVisible();
  await page.getByRole('button', { name: 'Dismiss' }).click();
}

async function issue(page: Parameters<typeof go>[0], purpose: string, replaced?: string): Promise<void> {
  await page.getByRole('button', { name: 'Issue a run' }).first().click();
  await page.getByRole('textbox', { name: 'Purpose', exact: true }).fill(purpose);
  await page.getByLabel('Recipients').fill('Plan checker, Contractor');
  if (replaced) await choose(page, 'Replaces', replaced);
  await page.getByRole('button', { name: 'Issue', exact: true }).click();
  await expect(page.getByLabel('Selected issue')).toContainText(purpose);
}

test('three issues stand in the register, and the first is superseded', async ({ folvex: page, address }) => {
  await publish(page, /^Permit set \d/);
  await go(page, 'Issues');
  await page.getByRole('button', { name: 'Issue a run' }).first().click();
  await page.getByRole('button', { name: 'Issue', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Enter the purpose.');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await issue(page, 'Permit');
  await publish(page, /^Tender/);
  await go(page, 'Issues');
  await issue(page, 'Tender');
  const day = new Date().toISOString().slice(0, 10);
  await issue(page, 'Permit, corrected', `issue 1 of ${day}`);
  const register = page.getByRole('table', { name: 'Issue register' });
  await expect(register.locator('thead th.gone')).toHaveText(/1.*superseded/s);
  const row = register.locator('tbody tr').filter({ hasText: 'A-101' });
  await expect(row.locator('td.cell')).toHaveText(['P03', 'P03', 'P03']);
  await page.getByLabel('Find sheets').fill('section');
  await expect(register.locator('tbody tr')).toHaveCount(1);
  const [project] = (await (await page.request.get(`${address}/api/projects`)).json()) as { id: string }[];
  const issues = (await (await page.request.get(`${address}/api/projects/${project!.id}/issues`)).json()) as Issue[];
  expect(issues.map(({ number, purpose }) => [number, purpose])).toEqual([
    [1, 'Permit'],
    [2, 'Tender'],
    [3, 'Permit, corrected'],
  ]);
  const saving = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download as XLSX' }).click();
  expect((await saving).suggestedFilename()).toBe('Issue register.xlsx');
});

test('a set that was renamed outside has its links repaired', async ({ folvex: page }) => {
  await publish(page, /^Tender/);
  await page.getByRole('link', { name: 'Look at it', exact: true }).click();
  const saving = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download all as ZIP' }).click();
  const files = unzipSync(new Uint8Array(readFileSync(await (await saving).path())));
  const renamed = Object.entries(files).map(([path, bytes]) => [path.replace(/[^/]+$/, 'TQ_$&'), bytes] as const);
  const archive = zipSync(Object.fromEntries(renamed));
  await go(page, 'Issues');
  await page.getByRole('radio', { name: 'Relink' }).click();
  await page
    .getByLabel('PDFs or ZIP')
    .setInputFiles({ name: 'set.zip', mimeType: 'application/zip', buffer: Buffer.from(archive) });
  await expect(page.getByText(/8 files, \d+ links: /)).toBeVisible();
  await page.getByLabel('Prefix').fill('TQ_');
  await expect(page.getByText(/8 files, \d+ links: \d+ repaired\./)).toBeVisible();
  await expect(page.getByRole('status')).toHaveCount(0);
  const repaired = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download repaired files' }).click();
  const out = unzipSync(new Uint8Array(readFileSync(await (await repaired).path())));
  expect(Object.keys(out).sort()).toEqual(renamed.map(([path]) => path).sort());
  let links = 0;
  for (const bytes of Object.values(out)) {
    const document = await getDocument({ data: bytes.slice(), verbosity: 0 }).promise;
    const annotations = (await (await document.getPage(1)).getAnnotations()) as { unsafeUrl?: string }[];
    for (const { unsafeUrl } of annotations) {
      const name = unsafeUrl?.replace(/#.*$/, '');
      if (!name?.endsWith('.pdf')) continue;
      links++;
      expect(Object.keys(out).map((path) => path.split('/').pop())).toContain(decodeURI(name.split('/').pop()!));
    }
  }
  expect(links).toBeGreaterThan(0);
  await page
    .getByLabel('PDFs or ZIP')
    .setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('x') });
  await expect(page.getByRole('alert')).toContainText('notes.txt is neither a PDF nor a ZIP archive');
});
