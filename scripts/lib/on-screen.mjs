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
    const opening = page.evaluate(untilPainted, { after: 'click', from: '0' });
    await link.click();
    const first = await opening;
    const before = await page.locator('fx-drawing-canvas').getAttribute('data-painted');
    const zooming = page.evaluate(untilPainted, { after: 'wheel', from: before });
    await page.mouse.move(600, 400);
    await page.mouse.wheel(0, -300);
    const next = await zooming;
    console.log(`\n${basename(file)} on screen, in headless Chromium`);
    console.log(`sent, read and on its card after ${there - sent} ms`);
    console.log(`its page made on the server ${ready - there} ms later`);
    console.log(`first picture ${first} ms after it was pressed  (wanted: under 1500)`);
    console.log(`next picture ${next} ms after the wheel was turned`);
  } finally {
    await browser.close();
    await instance.stop();
    rmSync(data, { recursive: true, force: true });
  }
}

/** In the page: ms from an event up to the frame in which the canvas has painted anew. */
function untilPainted({ after, from }) {
  return new Promise((done) => {
    const begin = ({ timeStamp }) => {
      const look = () => {
        const painted = document.querySelector('fx-drawing-canvas')?.getAttribute('data-painted') ?? from;
        if (painted === from) requestAnimationFrame(look);
        else done(Math.round(performance.now() - timeStamp));
      };
      look();
    };
    document.addEventListener(after, begin, { capture: true, once: true });
  });
}
