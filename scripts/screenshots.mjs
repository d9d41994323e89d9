// Takes the pictures of docs/screenshots from the demo, on an instance of its own.
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
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
  { name: 'list', show: (page) => openList(page) },
  { name: 'sheet', show: (page) => openSheet(page) },
  { name: 'settings', show: (page) => openSettings(page) },
  { name: 'typefaces', show: openTypefaces },
  { name: 'pens', show: (page) => openPens(page) },
  { name: 'projects', show: (page) => openProjects(page) },
  { name: 'gather', show: (page) => openGather(page) },
  { name: 'drawing', show: (page) => openDrawing(page) },
  { name: 'changes', show: (page) => openChanges(page) },
  { name: 'package', show: (page) => openPackage(page) },
  { name: 'pages', show: (page) => openPages(page) },
  { name: 'light-table', show: (page) => openLightTable(page) },
  { name: 'compare', show: (page) => openCompare(page) },
  { name: 'recipe', show: (page) => openRecipe(page) },
  { name: 'issues', show: (page) => openIssues(page) },
  { name: 'relink', show: (page) => openRelink(page) },
  { name: 'api-reference', show: openApiReference },
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
      const baseURL = `http://127.0.0.1:${port}`;
      const page = await browser.newPage({ viewport: SIZE, colorScheme: dark ? 'dark' : 'light', baseURL });
      const [demo] = await (await page.request.get('/api/projects')).json();
      await page.goto(`/projects/${demo.id}`);
      await show(page);
      // Finished animations, since a picture of one half way shows marks that are half drawn.
      await page.screenshot({ path: join(folder, `${name}.png`), animations: 'disabled' });
      await page.close();
      say(`docs/screenshots/${name}.png`);
    }
  } finally {
    await browser.close();
    await instance.remove();
    rmSync(data, { recursive: true, force: true });
  }
});

async function openSheets(page) {
  await page.getByRole('link', { name: 'Sheets' }).click();
  await page.getByRole('option', { name: /A-101/ }).click();
  await painted(page);
}

async function openSheet(page) {
  await page.getByRole('link', { name: 'Sheets' }).click();
  await page.getByRole('option', { name: /A-101/ }).dblclick();
  await page.locator('fx-placed-views rect.view').first().focus();
  await painted(page);
}

async function openList(page) {
  await page.getByRole('link', { name: 'Sheets' }).click();
  await painted(page);
  await page.getByRole('radio', { name: 'List' }).click();
  await page.getByRole('checkbox', { name: 'Select A-102' }).check();
  await page.getByRole('heading', { name: 'A-102' }).waitFor();
}

async function openPens(page) {
  await page.getByRole('link', { name: 'Pens' }).click();
  await page.getByRole('combobox', { name: 'On the sheet' }).click();
  await page.getByRole('option', { name: 'A-101 Ground floor plan' }).click();
  await page
    .getByRole('button', { name: /^A-WALL, / })
    .first()
    .click();
  await page.locator('fx-pen-preview .piece:not([data-painted="0"])').waitFor();
}

async function openRecipe(page) {
  await page.getByRole('link', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Recipes' }).click();
  await page.getByRole('button', { name: /^Greys, no layers/ }).click();
}

/** Two runs issued, the one that stands open shown. */
async function openIssues(page) {
  for (const [pack, purpose] of [
    [/^Permit set/, 'Building permit'],
    [/^Tender/, 'Tender'],
  ]) {
    await page.getByRole('link', { name: 'Package', exact: true }).click();
    await page.getByRole('radio', { name: pack }).click();
    await page.getByRole('button', { name: /^Publish/ }).click();
    await page.getByText(/ is published: /).waitFor();
    await page.getByRole('button', { name: 'Dismiss' }).click();
    await page.getByRole('link', { name: 'Issues' }).click();
    await page.getByRole('button', { name: 'Issue a run' }).first().click();
    await page.getByRole('textbox', { name: 'Purpose', exact: true }).fill(purpose);
    await page.getByLabel('Recipients').fill('Plan checker, Contractor');
    await page.getByRole('button', { name: 'Issue', exact: true }).click();
    await page.getByLabel('Selected issue').getByText(purpose, { exact: true }).waitFor();
  }
}

/** The files of the tender, renamed outside, with the rule that repairs their links. */
async function openRelink(page) {
  const [{ id }] = await (await page.request.get('/api/projects')).json();
  const { runs } = await (await page.request.get(`/api/projects/${id}`)).json();
  const { id: run, files } = runs.find((one) => one.files.length > 1);
  const set = await Promise.all(
    files.map(async ({ path }, i) => {
      const buffer = await (await page.request.get(`/api/runs/${run}/files/${i}`)).body();
      return { name: `TQ_${path.split('/').pop()}`, mimeType: 'application/pdf', buffer };
    }),
  );
  await page.getByRole('link', { name: 'Issues' }).click();
  await page.getByRole('radio', { name: 'Relink' }).click();
  await page.getByLabel('PDFs or ZIP').setInputFiles(set);
  await page.getByLabel('Prefix').fill('TQ_');
  await page.getByText(/links?: /).waitFor();
}

async function openTypefaces(page) {
  await openSettings(page);
  await page.getByRole('button', { name: 'Typefaces' }).press('Enter');
  await page.getByText('Fonts in drawings').waitFor();
  await page.evaluate(() => document.fonts.ready);
}

async function openSettings(page) {
  await page.getByRole('link', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Title blocks', exact: true }).click();
  await page.getByRole('button', { name: 'Duplicate to edit' }).click();
  await page.getByRole('button', { name: 'Cell Title' }).click();
  await painted(page);
}

async function openGather(page) {
  await page.getByRole('link', { name: 'Gather' }).click();
  await page.getByRole('button', { name: 'Create sheet' }).nth(1).click();
  await painted(page);
}

async function openDrawing(page) {
  await page.getByRole('link', { name: 'Gather' }).click();
  await page.getByRole('link', { name: 'ground-floor.dxf' }).click();
  const canvas = page.locator('fx-drawing-canvas');
  await page.locator('fx-drawing-canvas:not([data-painted="0"])').waitFor();
  const { x, y, width, height } = await canvas.boundingBox();
  await page.mouse.move(x + width * 0.45, y + height * 0.45);
  await page.mouse.wheel(0, -500);
  // Some place that the grid lines of the floor cross.
  for (let step = 0; (await page.getByLabel('Chosen entity').count()) === 0 && step < 20; step++) {
    await page.mouse.click(x + width / 2 + 7 * step, y + height / 2 + 3 * step);
    await page.waitForResponse(/entities/, { timeout: 1000 }).catch(() => undefined);
  }
  await page.getByRole('heading', { name: /^(Line|Polyline|Block reference|Text|Arc|Circle)$/ }).waitFor();
}

/** The ground floor as it might come back from a consultant: one table moved, a canopy added. */
async function openChanges(page) {
  const text = readFileSync(join(ROOT, 'demo', 'tern-quay', 'ground-floor.dxf'), 'utf8');
  const at = text.indexOf('0\nENDSEC', text.indexOf('\nENTITIES\n'));
  const canopy = [4, 24, 24, 4].map((px, i) => `10\n${px * 1000}\n20\n${i < 2 ? -7000 : -3000}\n`).join('');
  const added = `0\nLWPOLYLINE\n8\nA-CANOPY\n90\n4\n70\n1\n${canopy}`;
  // The last block reference of the model, moved by 900 mm.
  const last = text.lastIndexOf('\n0\nINSERT\n', at);
  const moved =
    text.slice(0, last) + text.slice(last, at).replace(/\n10\n([\d.-]+)\n/, (_, x) => `\n10\n${Number(x) + 900}\n`);
  await page.getByRole('link', { name: 'Gather' }).click();
  const buffer = Buffer.from(moved + added + text.slice(at));
  await page.getByLabel('Drawing files').setInputFiles({ name: 'ground-floor.dxf', mimeType: 'text/plain', buffer });
  await page.getByRole('button', { name: 'See what changes' }).click();
  await page.locator('fx-changes-panel canvas.painted').waitFor();
  await painted(page);
}

async function openPackage(page) {
  await page.getByRole('link', { name: 'Package', exact: true }).click();
  await page.getByRole('radio', { name: /Tender/ }).click();
  await page.getByRole('button', { name: /^Publish/ }).click();
  await page.getByText(/Read again and found/).waitFor();
  await painted(page);
}

async function openLightTable(page) {
  await page.getByRole('link', { name: 'Package' }).click();
  await page.getByRole('radio', { name: /^Permit set \d/ }).click();
  await page.getByRole('button', { name: /^Publish/ }).click();
  await page.getByRole('link', { name: 'Look at it', exact: true }).click();
  await page.getByRole('button', { name: /A-101/ }).click();
  await page.getByLabel('Search the text').fill('waiting room');
  await page.locator('.sheet[data-painted="2"]').waitFor();
  await page.locator('.hit.current').waitFor();
}

/** The run before, and one after a sheet was given another title. */
async function openCompare(page) {
  const projects = await (await page.request.get('/api/projects')).json();
  const at = `/api/projects/${projects[0].id}`;
  const { sheets } = await (await page.request.get(at)).json();
  const { id, title } = sheets.find(({ number }) => number === 'A-101');
  await page.request.patch(`${at}/sheets/${id}`, { data: { title: `${title}, with canopy` } });
  const run = await (await page.request.post(`${at}/packages/permit/runs`, { data: {} })).json();
  for (let state = ''; state !== 'done';) state = (await (await page.request.get(`/api/runs/${run.id}`)).json()).state;
  await page.reload();
  await page.getByRole('link', { name: 'Light table' }).click();
  await page.getByRole('combobox', { name: 'Compare with' }).click();
  await page.getByRole('option').nth(1).click();
  await page.getByRole('button', { name: /A-101/ }).click();
  await page.locator('fx-compare-layer').waitFor();
  await page.locator('fx-compare-panel li button').first().click();
  await page.request.patch(`${at}/sheets/${id}`, { data: { title } });
}

/** Waits until every picture in sight is there. */
async function painted(page) {
  await page.waitForFunction(() => {
    const seen = [...document.querySelectorAll('fx-page-picture, fx-sheet-picture')].filter((picture) => {
      const { top, bottom } = picture.getBoundingClientRect();
      return bottom > 0 && top < innerHeight;
    });
    return seen.length > 0 && seen.every((picture) => picture.querySelector('canvas.painted'));
  });
  await page.mouse.move(640, 2);
}

async function openProjects(page) {
  await page.getByRole('link', { name: 'Projects' }).click();
  await page.locator('fx-page-picture canvas.painted').first().waitFor();
}

/** The pages of a package as a grid, three of them selected. */
async function openPages(page) {
  await page.getByRole('link', { name: 'Package', exact: true }).click();
  await page.getByRole('radio', { name: 'Grid' }).click();
  await page.locator('fx-page-board [data-at="2"]').click();
  await page.locator('fx-page-board [data-at="4"]').click({ modifiers: ['Shift'] });
  await page.locator('fx-page-board canvas.painted').nth(8).waitFor();
}

async function openApiReference(page) {
  await page.goto('/api-reference');
  await page.getByRole('button', { name: /Publishes a package/ }).click();
  await page.getByRole('button', { name: 'StoppedRun' }).waitFor();
}
