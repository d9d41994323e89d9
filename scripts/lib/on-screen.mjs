// Measures how long a large drawing takes to come on screen, in a browser, on an instance of its own.
import { rmSync } from 'node:fs';
import { basename } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM } from './browser.mjs';
import { startInstance } from './instance.mjs';
import { ownFolder } from './own-folder.mjs';
import { freePort } from './postgres.mjs';

const PATIENCE_MS = 120_000;

/** Sends a file, waits until its card is there, opens it and prints the time to its first picture and to the next. */
export async function onScreen(file) {
  const data = ownFolder('folvex-on-screen-');
  const port = await freePort();
  const instance = await startInstance(data, { settings: { FOLVEX_PORT: String(port) } });
  const browser = await chromium.launch(CHROMIUM);
  try {
    await instance.ready;
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    page.setDefaultTimeout(PATIENCE_MS);
    await page.goto(`http://127.0.0.1:${port}`);
    await page.getByRole('link', { name: 'Gather' }).click();
    const sent = Date.now();
    await page.getByLabel('Drawing files').setInputFiles(file);
    const link = page.getByRole('link', { name: basename(file) });
    await link.waitFor();
    const there = Date.now();
    // The server makes its page right after the card; from then on it "has it".
    const id = (await link.getAttribute('href')).split('/').pop();
    await page.request.get(`http://127.0.0.1:${port}/api/drawings/${id}/spaces/0`);
    const ready = Date.now();
    await link.click();
    await page.locator('fx-drawing-canvas:not([data-painted="0"])').waitFor();
    const shown = Date.now();
    const canvas = page.locator('fx-drawing-canvas');
    const before = await canvas.getAttribute('data-painted');
    await page.mouse.move(600, 400);
    await page.mouse.wheel(0, -300);
    await page.locator(`fx-drawing-canvas:not([data-painted="${before}"])`).waitFor();
    console.log(`\n${basename(file)} on screen, in headless Chromium`);
    console.log(`sent, read and on its card after ${there - sent} ms`);
    console.log(`its page made on the server ${ready - there} ms later`);
    console.log(`first picture ${shown - ready} ms after it was opened  (wanted: under 1500)`);
    console.log(`next picture ${Date.now() - shown} ms after it was zoomed`);
  } finally {
    await browser.close();
    await instance.stop();
    rmSync(data, { recursive: true, force: true });
  }
}
