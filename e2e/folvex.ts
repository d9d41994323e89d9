import { rmSync } from 'node:fs';
import { test as base, expect, type Locator, type Page } from '@playwright/test';
import { startInstance } from '../scripts/lib/instance.mjs';
import { ownFolder } from '../scripts/lib/own-folder.mjs';
import { freePort } from '../scripts/lib/postgres.mjs';

export { expect };

/** One Folvex with the demo for all tests of a file; each test gets a page of it, which may talk to nobody else. */
export const test = base.extend<
  { folvex: Page },
  { address: string; data: string; settings: Readonly<Record<string, string>> }
>({
  /** Variables of its environment. */
  settings: [{}, { scope: 'worker', option: true }],
  /** The folder that it keeps its data in. */
  data: [
    async ({}, use) => {
      const data = ownFolder('folvex-e2e-');
      await use(data);
      rmSync(data, { recursive: true, force: true });
    },
    { scope: 'worker' },
  ],
  address: [
    async ({ data, settings }, use) => {
      const port = await freePort();
      const instance = await startInstance(data, { settings: { ...settings, FOLVEX_PORT: String(port) } });
      await instance.ready;
      await use(`http://127.0.0.1:${port}`);
      await instance.remove();
    },
    { scope: 'worker', timeout: 600_000 },
  ],
  folvex: async ({ page, address }, use) => {
    const elsewhere: string[] = [];
    const errors: string[] = [];
    page.on('request', (request) => {
      const url = request.url();
      if (!url.startsWith(address) && !/^(data|blob):/.test(url)) elsewhere.push(url);
    });
    page.on('pageerror', (error) => errors.push(error.message));
    // Angular reports what went wrong in a template there.
    page.on('console', (message) => {
      if (message.type() === 'error' && message.text().startsWith('ERROR')) errors.push(message.text());
    });
    await page.goto(await demoAddress(page, address));
    await use(page);
    expect(elsewhere).toEqual([]);
    expect(errors).toEqual([]);
  },
});

/** The address of the demo project, which is the first. */
export async function demoAddress(page: Page, address: string): Promise<string> {
  const [demo] = (await (await page.request.get(`${address}/api/projects`)).json()) as { id: string }[];
  return `${address}/projects/${demo!.id}`;
}

export async function go(page: Page, place: 'Gather' | 'Sheets' | 'Package' | 'Light table' | 'Issues'): Promise<void> {
  await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: place, exact: true }).click();
}

/** Numbers of the pages on the strip, in reading order. */
export async function strip(page: Page): Promise<string[]> {
  return page.locator('fx-page-strip .page b').allTextContents();
}

/** Names in the output tree. */
export async function names(page: Page): Promise<string[]> {
  return (await page.locator('fx-output-tree .name').allTextContents()).map((name) => name.trim());
}

/** How many different colours a canvas shows: a blank one shows one. */
export async function coloursOf(page: Page, selector: string): Promise<number> {
  return page
    .locator(selector)
    .first()
    .evaluate((canvas) => {
      const copy = document.createElement('canvas');
      const { width, height } = canvas as HTMLCanvasElement;
      [copy.width, copy.height] = [width, height];
      const context = copy.getContext('2d')!;
      context.drawImage(canvas as HTMLCanvasElement, 0, 0);
      const { data } = context.getImageData(0, 0, width, height);
      const seen = new Set<number>();
      for (let i = 0; i < data.length; i += 4) seen.add((data[i]! << 16) | (data[i + 1]! << 8) | data[i + 2]!);
      return seen.size;
    });
}

/** Mean lightness (0…255) of each 7 × 7 pixels of a picture brought to a width of 713, row by row. */
export async function greyCells(page: Page, url: string): Promise<number[]> {
  return page.evaluate(async (source) => {
    const width = 713;
    const image = new Image();
    image.src = source;
    await image.decode();
    const cell = 7;
    const height = Math.round((image.height * width) / image.width);
    const [across, down] = [Math.floor(width / cell), Math.floor(height / cell)];
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [across * cell, down * cell];
    const context = canvas.getContext('2d')!;
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.imageSmoothingQuality = 'high';
    context.drawImage(image, 0, 0, width, height);
    const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
    const sums = new Array<number>(across * down).fill(0);
    for (let i = 0; i < data.length; i += 4) {
      const [x, y] = [(i / 4) % canvas.width, Math.floor(i / 4 / canvas.width)];
      const at = Math.floor(y / cell) * across + Math.floor(x / cell);
      sums[at] = sums[at]! + (data[i]! + data[i + 1]! + data[i + 2]!) / 3 / cell / cell;
    }
    return sums;
  }, url);
}

/** A DXF of some lines and a note, without a unit unless one is said. */
export function drawing(unit?: number, words = 'Boat shed'): Buffer {
  const header = unit === undefined ? '' : `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n${unit}\n0\nENDSEC\n`;
  const lines = Array.from(
    { length: 12 },
    (_, i) => `0\nLINE\n8\nA-WALL\n10\n${i * 1000}\n20\n0\n11\n${i * 1000}\n21\n8000\n`,
  );
  const note = `0\nTEXT\n8\nA-NOTE\n10\n500\n20\n8500\n40\n300\n1\n${words}\n`;
  return Buffer.from(`${header}0\nSECTION\n2\nENTITIES\n${lines.join('')}${note}0\nENDSEC\n0\nEOF\n`);
}

/** A DXF in millimetres with nineteen A3 frames at 1:50 in rows of five, a table of lines in each, and an open one. */
export function nineteenFrames(): Buffer {
  const [width, height] = [21_000, 14_850];
  const frame = (x: number, y: number, closed: number): string =>
    `0\nLWPOLYLINE\n8\nX-FRAME\n90\n4\n70\n${closed}\n` +
    [
      [x, y],
      [x + width, y],
      [x + width, y + height],
      [x, y + height],
    ]
      .map(([px, py]) => `10\n${px}\n20\n${py}\n`)
      .join('');
  const entities = Array.from({ length: 19 }, (_, i) => {
    const [x, y] = [(i % 5) * 25_000, -Math.floor(i / 5) * 20_000];
    const text = `0\nTEXT\n8\nA-NOTE\n10\n${x + 1000}\n20\n${y + 1000}\n40\n250\n1\nTable ${i + 1}\n`;
    return frame(x, y, 1) + text;
  });
  entities.push(frame(0, 50_000, 0));
  return Buffer.from(
    `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities.join('')}0\nENDSEC\n0\nEOF\n`,
  );
}

/** Chooses an option of a select by its words. */
export async function choose(scope: Page | Locator, name: string | RegExp, words: string | RegExp): Promise<void> {
  const select = scope.getByRole('combobox', { name, exact: typeof name === 'string' });
  await select.click();
  const page = 'page' in scope ? scope.page() : scope;
  await page.getByRole('option', { name: words, exact: typeof words === 'string' }).click();
  // Until its panel is gone, it takes the next click.
  await expect(page.locator('.mat-mdc-select-panel')).toHaveCount(0);
}

/** Adds a server, a mail server or a plotter at an address; returns what the settings show of it. */
export async function addServer(page: Page, address: string): Promise<Locator> {
  await page.getByRole('link', { name: 'Settings', exact: true }).click();
  await page.getByRole('button', { name: 'Servers', exact: true }).click();
  await page.getByRole('button', { name: 'Add a server', exact: true }).click();
  const server = page.getByRole('region', { name: 'Server 1' });
  await server.getByLabel('Address').fill(address);
  await server.getByLabel('Address').press('Enter');
  return server;
}

/** Chooses a sheet on the wall once its picture is there: while sheets find their sizes, a click may miss. */
export async function chooseSheet(sheet: Locator, shows: Locator): Promise<void> {
  await sheet.scrollIntoViewIfNeeded();
  await expect(sheet.locator('canvas.painted')).toHaveCount(1);
  await expect(async () => {
    if ((await sheet.getAttribute('aria-selected')) !== 'true') await sheet.click();
    await expect(shows).toBeVisible({ timeout: 1000 });
  }).toPass();
}
