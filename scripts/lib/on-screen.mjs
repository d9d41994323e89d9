// Measures how long a large drawing takes to come on screen, in a browser, on an instance of its own.
import { rmSync } from 'node:fs';
import { basename } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM } from './browser.mjs';
import { startInstance } from './instance.mjs';
import { ownFolder } from './own-folder.mjs';
import { freePort } from './postgres.mjs';

const TIMEOUT_MS = 120_000;

/** Sends a file, waits until its card is there, opens it and prints the time to its first picture and to the next. */
export async function onScreen(file) {
  const data = ownFolder('folvex-on-screen-');
  const port = await freePort();
  const instance = await startInstance(data, { settings: { FOLVEX_PORT: String(port) } });
  const browser = await chromium.launch(CHROMIUM);
  try {
    await instance.ready;
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    page.setDefaultTimeout(TIMEOUT_MS);
    const [demo] = await (await page.request.get(`http://127.0.0.1:${port}/api/projects`)).json();
    await page.goto(`http://127.0.0.1:${port}/projects/${demo.id}`);
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
    await onSheet(page, port, id);
  } finally {
    await browser.close();
    await instance.remove();
    rmSync(data, { recursive: true, force: true });
  }
}

/** Puts the drawing on a sheet, moves its view by hand and zooms; prints how long the page's own thread was held up. */
async function onSheet(page, port, drawing) {
  const at = `http://127.0.0.1:${port}`;
  const [project] = await (await page.request.get(`${at}/api/projects`)).json();
  const wanted = {
    drawing,
    number: 'B-1',
    title: 'Bench',
    group: '',
    paper: { name: 'A1', orientation: 'landscape' },
    scale: 'fit',
  };
  const { sheets } = await (
    await page.request.post(`${at}/api/projects/${project.id}/sheets`, { data: wanted })
  ).json();
  const [sheet] = sheets;
  await page.goto(`${at}/projects/${project.id}/sheets/${sheet.id}`);
  const picture = page.locator('fx-sheet-picture:has(canvas.painted)');
  await picture.waitFor();
  await page.waitForTimeout(1000);
  await page.evaluate(() => {
    globalThis.heldUp = [];
    new PerformanceObserver((list) =>
      globalThis.heldUp.push(...list.getEntries().map(({ duration }) => duration)),
    ).observe({
      type: 'longtask',
    });
  });
  const view = await page.locator('fx-placed-views rect.view').first().boundingBox();
  const [x, y] = [view.x + view.width / 2, view.y + view.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 1; i <= 60; i++) await page.mouse.move(x + 2 * i, y + i);
  await page.mouse.up();
  const heldUp = Math.round(Math.max(0, ...(await page.evaluate(() => globalThis.heldUp))));
  await page.getByText('Saving …').waitFor({ state: 'detached' });
  const took = [];
  for (let i = 0; i < 5; i++) {
    const before = await picture.getAttribute('data-painted');
    await page.getByRole('button', { name: i % 2 ? 'Larger' : 'Smaller' }).click();
    await page.locator(`fx-sheet-picture:not([data-painted="${before}"])`).waitFor();
    took.push(Number(await picture.getAttribute('data-took')));
  }
  console.log(`\nthe same on a sheet, its view dragged by hand`);
  console.log(`longest time the page's thread was held up ${heldUp || 'under 50'} ms  (wanted: under 50)`);
  console.log(
    `a full repaint in its own thread ${Math.min(...took)} ms, quickest of ${took.length}  (wanted: under 250)`,
  );
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
