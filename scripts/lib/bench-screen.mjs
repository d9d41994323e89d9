// Measures how long the page's own thread is held up on a project of three thousand sheets, in a browser.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { writeBigProject } from './big-project.mjs';
import { CHROMIUM } from './browser.mjs';
import { startInstance } from './instance.mjs';
import { ownFolder } from './own-folder.mjs';
import { freePort } from './postgres.mjs';

const TIMEOUT_MS = 60_000;
const QUIET_MS = 1500;

/** Opens the project, scrolls, filters, selects, edits and reorders; prints the longest task of each. */
export async function benchScreen() {
  const data = ownFolder('folvex-screen-');
  const port = await freePort();
  const settings = { FOLVEX_PORT: String(port), FOLVEX_DEMO: writeBigProject(join(data, 'big')) };
  const instance = await startInstance(data, { settings });
  const browser = await chromium.launch(CHROMIUM);
  try {
    await instance.ready;
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    page.setDefaultTimeout(TIMEOUT_MS);
    await page.addInitScript(() => {
      globalThis.longTasks = [];
      new PerformanceObserver((list) =>
        globalThis.longTasks.push(...list.getEntries().map(({ duration }) => duration)),
      ).observe({ type: 'longtask', buffered: true });
    });
    const base = `http://127.0.0.1:${port}`;
    const [project] = await (await page.request.get(`${base}/api/projects`)).json();
    console.log('\nA project of 3 000 sheets and 60 drawings, in headless Chromium');
    const answered = page.waitForResponse((response) => response.url().endsWith(`/api/projects/${project.id}`));
    await page.goto(`${base}/projects/${project.id}/sheets`);
    const response = await answered;
    await response.finished();
    const start = Date.now();
    await page.getByRole('option').first().waitFor();
    say('open the wall, after the server answered', Date.now() - start, 'wanted: under 2000 ms');
    await settle(page);

    const wheel = async (times) => {
      for (let i = 0; i < times; i++) {
        await page.mouse.wheel(0, 900);
        await page.waitForTimeout(60);
      }
    };
    await page.mouse.move(500, 500);
    await measured(page, 'scroll the wall', 50, () => wheel(25));
    await page.getByRole('radio', { name: 'List' }).click();
    await page.getByRole('grid').or(page.getByRole('table')).first().waitFor();
    await settle(page);
    await measured(page, 'scroll the list', 50, () => wheel(25));
    await measured(page, 'filter the list', 100, async () => {
      await page.getByRole('searchbox', { name: 'Find sheets' }).fill('Bay 12');
    });
    await page.getByRole('searchbox', { name: 'Find sheets' }).fill('');
    await settle(page);
    await measured(
      page,
      'select all sheets',
      100,
      await pressOn(page.getByRole('checkbox', { name: 'Select all or none' })),
    );
    await page.getByRole('checkbox', { name: 'Select all or none' }).uncheck();
    // Some five hundred.
    await page.getByRole('searchbox', { name: 'Find sheets' }).fill('A-1 8');
    await page.getByRole('checkbox', { name: 'Select all or none' }).check();
    await settle(page);
    await page.getByRole('combobox', { name: 'Frame', exact: true }).click();
    await page.getByRole('option', { name: 'none', exact: true }).click();
    await settle(page);
    const many = await page.getByRole('status').first().textContent();
    const set = await pressOn(page.getByRole('button', { name: /^Set on \d/ }));
    await measured(page, `set one value on ${many}`, 100, async () => {
      const saved = page.waitForResponse(isEdit);
      await set();
      await (await saved).finished();
    });
    await page.getByRole('button', { name: /^Undo frame/ }).waitFor();
    await page.getByRole('link', { name: 'Package', exact: true }).click();
    await page.getByRole('button', { name: /^Publish/ }).waitFor();
    await page.getByText(/^Checking/).waitFor({ state: 'detached' });
    await settle(page);
    await page.getByRole('radio', { name: 'Grid' }).click();
    await settle(page);
    await page.mouse.move(500, 500);
    await measured(page, 'scroll the grid of pages', 50, () => wheel(25));
    await page.keyboard.press('Home');
    await page.locator('fx-page-board cdk-virtual-scroll-viewport').evaluate((box) => (box.scrollTop = 0));
    await page.locator('fx-page-board [data-at="0"]').click();
    await page.locator('fx-page-board cdk-virtual-scroll-viewport').evaluate((box) => (box.scrollTop = 4400));
    await page.locator('fx-page-board [data-at="199"]').click({ modifiers: ['Shift'] });
    await page.getByLabel('Move to position').fill('1000');
    await page.getByLabel('Move to position').focus();
    await measured(page, 'reorder 200 pages', 100, async () => {
      const saved = page.waitForResponse(isEdit);
      await page.keyboard.press('Enter');
      await (await saved).finished();
    });
    await page.getByRole('radio', { name: 'Strip' }).click();
    // Every page says its place, so all of them are composed again.
    await page.getByText(/^Checking/).waitFor({ state: 'detached' });
    await settle(page);
    const kind = page.getByRole('button', { name: /places$/ }).first();
    await measured(page, 'open a kind of findings', 100, await pressOn(kind));
  } finally {
    await browser.close();
    await instance.remove();
    rmSync(data, { recursive: true, force: true });
  }
}

/** True for the answer to an edit of sheets or of a package. */
function isEdit(answer) {
  return answer.request().method() !== 'GET' && /\/(sheets\/changed|packages\/[^/]+)$/.test(answer.url());
}

/** The press of a control, found beforehand: looking for it by its name takes the page's thread longer than the press. */
async function pressOn(control) {
  await control.scrollIntoViewIfNeeded();
  const { x, y, width, height } = await control.boundingBox();
  return () => control.page().mouse.click(x + width / 2, y + height / 2);
}

/**
 * Does something, waits until the page is quiet, and prints the longest task of its thread: its processor time, and how
 * long it took by the clock on a machine that also runs the server, the database and the browser's other processes.
 */
async function measured(page, words, wanted, act) {
  const browser = page.context().browser();
  await page.evaluate(() => (globalThis.longTasks = []));
  await browser.startTracing(page, { categories: ['toplevel', '__metadata'] });
  await act();
  await settle(page);
  const tasks = tasksOf(JSON.parse((await browser.stopTracing()).toString()).traceEvents);
  const most = (key) => Math.round(Math.max(0, ...tasks.map((task) => task[key] ?? 0)) / 1000);
  say(words, most('tdur'), `processor time of one task, ${most('dur')} ms by the clock; wanted: at most ${wanted} ms`);
}

/** The tasks of the page's thread; `dur` and `tdur`: how long each took by the clock and of the processor, microseconds. */
function tasksOf(events) {
  const threads = events.filter(({ name, args }) => name === 'thread_name' && args.name === 'CrRendererMain');
  if (threads.length === 0) throw new Error('the trace names no thread of the page');
  const own = new Set(threads.map(({ pid, tid }) => `${pid} ${tid}`));
  return events.filter(({ name, pid, tid }) => name === 'ThreadControllerImpl::RunTask' && own.has(`${pid} ${tid}`));
}

/** Waits until the page's thread has had nothing long to do for a while. */
async function settle(page) {
  for (let count = -1; ;) {
    const now = await page.evaluate(() => globalThis.longTasks.length);
    if (now === count) return;
    count = now;
    await page.waitForTimeout(QUIET_MS);
  }
}

function say(words, ms, wanted) {
  console.log(`${words.padEnd(46)} ${String(ms).padStart(6)} ms  ${wanted}`);
}
