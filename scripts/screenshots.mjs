// Takes the pictures of docs/screenshots from the demo, on an instance of its own.
import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { ROOT } from './build-node.mjs';
import { CHROMIUM } from './lib/browser.mjs';
import { startInstance } from './lib/instance.mjs';
import { ownFolder } from './lib/own-folder.mjs';
import { freePort } from './lib/postgres.mjs';
import { runMain, say } from './lib/say.mjs';

const SIZE = { width: 1280, height: 800 };

/** Each view: how to get to it, and which light it is shown in. */
const VIEWS = [
  { name: 'sheets', show: (page) => openSheets(page) },
  { name: 'sheets-dark', dark: true, show: (page) => openSheets(page) },
  { name: 'gather', show: (page) => openGather(page) },
  { name: 'package', show: (page) => openPackage(page) },
  { name: 'light-table', show: (page) => openLightTable(page) },
];

await runMain(async () => {
  const folder = join(ROOT, 'docs', 'screenshots');
  mkdirSync(folder, { recursive: true });
  const data = ownFolder('folvex-pictures-');
  const port = await freePort();
  const instance = await startInstance(data, { settings: { FOLVEX_PORT: String(port) } });
  await instance.ready;
  const browser = await chromium.launch(CHROMIUM);
  try {
    for (const { name, dark, show } of VIEWS) {
      const page = await browser.newPage({ viewport: SIZE, colorScheme: dark ? 'dark' : 'light' });
      await page.goto(`http://127.0.0.1:${port}`);
      await show(page);
      await page.screenshot({ path: join(folder, `${name}.png`) });
      await page.close();
      say(`docs/screenshots/${name}.png`);
    }
  } finally {
    await browser.close();
    await instance.stop();
    rmSync(data, { recursive: true, force: true });
  }
});

async function openSheets(page) {
  await page.getByRole('link', { name: 'Sheets' }).click();
  await page.getByRole('option', { name: /A-101/ }).click();
  await painted(page);
}

async function openGather(page) {
  await page.getByRole('link', { name: 'Gather' }).click();
  await page.getByRole('button', { name: 'Make a sheet' }).nth(1).click();
  await painted(page);
}

async function openPackage(page) {
  await page.getByRole('link', { name: 'Package' }).click();
  await page.getByRole('button', { name: /Tender/ }).click();
  await page.getByRole('button', { name: /^Write/ }).click();
  await page.getByText('Latest run').waitFor();
  await painted(page);
}

async function openLightTable(page) {
  await page.getByRole('link', { name: 'Package' }).click();
  await page.getByRole('button', { name: /^Permit set \d/ }).click();
  await page.getByRole('button', { name: /^Write/ }).click();
  await page.getByRole('link', { name: 'Look at it', exact: true }).click();
  await page.getByRole('button', { name: /A-101/ }).click();
  await page.getByRole('searchbox').fill('waiting room');
  await page.locator('.sheet[data-painted="2"]').waitFor();
  await page.locator('.hit.current').waitFor();
}

/** Waits until every picture in sight is there. */
async function painted(page) {
  await page.waitForFunction(() => {
    const seen = [...document.querySelectorAll('fx-page-picture')].filter((picture) => {
      const { top, bottom } = picture.getBoundingClientRect();
      return bottom > 0 && top < innerHeight;
    });
    return seen.length > 0 && seen.every((picture) => picture.querySelector('canvas.painted'));
  });
  await page.mouse.move(640, 2);
}
