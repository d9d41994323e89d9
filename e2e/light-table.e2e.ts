import type { ProjectInfo, RunInfo } from '@folvex/contract';
import { coloursOf, demoAddress, expect, go, test } from './folvex';

type Page = Parameters<typeof go>[0];

async function published(page: Page, address: string, project: string): Promise<void> {
  const url = `${address}/api/projects/${project}/packages/permit/runs`;
  const { id } = (await (await page.request.post(url, { data: {} })).json()) as RunInfo;
  await expect
    .poll(async () => ((await (await page.request.get(`${address}/api/runs/${id}`)).json()) as RunInfo).state)
    .toBe('done');
}

test('a run is compared with an earlier one, page by page', async ({ folvex: page, address }) => {
  const [found] = (await (await page.request.get(`${address}/api/projects`)).json()) as { id: string }[];
  const project = found!.id;
  const { sheets } = (await (await page.request.get(`${address}/api/projects/${project}`)).json()) as ProjectInfo;
  const id = sheets.find(({ number }) => number === 'A-101')!.id;
  await published(page, address, project);
  const url = `${address}/api/projects/${project}/sheets/${id}`;
  await page.request.patch(url, { data: { title: 'Ground floor plan, revised' } });
  await published(page, address, project);
  await page.goto(await demoAddress(page, address));
  await go(page, 'Light table');
  await page.getByRole('combobox', { name: 'Compare with' }).click();
  await page.getByRole('option').nth(1).click();
  // It opens at the first page that changed.
  const pages = page.locator('fx-run-files .page');
  const changed = pages.filter({ hasText: 'changed' });
  await expect(changed).toHaveAttribute('aria-current', 'page');
  const same = pages.filter({ hasText: 'the same' });
  await expect(same).toHaveCount(8);
  await same.first().click();
  await expect(page.getByText('No change on this page.')).toBeVisible();
  await changed.click();
  // What came is in the title block: solid in its own colour, and in the list with its place.
  const layer = page.locator('fx-compare-layer');
  await expect(layer).toHaveAttribute('data-mode', 'together');
  await expect(page.locator('fx-compare-panel li')).toHaveCount(1);
  await expect(page.locator('fx-compare-panel li')).toContainText(/added.*mm, at \d+, \d+ mm/s);
  expect(await coloursOf(page, 'fx-compare-layer canvas')).toBeGreaterThan(3);
  await page.getByRole('radio', { name: 'At a line' }).click();
  await page.getByLabel('Position of the line').fill('30');
  await expect(layer.locator('canvas').nth(1)).toHaveCSS('clip-path', 'inset(0px 70% 0px 0px)');
  await page.getByRole('radio', { name: 'In turns' }).click();
  const then = layer.locator('canvas').nth(1);
  await expect(then).toBeVisible();
  await expect(then).toBeHidden();
  await page.getByRole('button', { name: 'Stop comparing' }).click();
  await expect(page.getByRole('heading', { name: 'Layers' })).toBeVisible();
});

test('all files of a run are searched, and pages shown as large as on paper', async ({ folvex: page }) => {
  await go(page, 'Light table');
  await page.getByLabel('Search all files of the run').fill('hinge');
  await page.getByLabel('Search all files of the run').press('Enter');
  await expect(page.getByText(/^On \d pages?\./)).toBeVisible();
  await page.locator('fx-run-search').getByRole('button', { name: 'A-502' }).click();
  await expect(page.locator('fx-page-viewer strong')).toHaveText('A-502');
  await expect(page.locator('fx-page-viewer .hit').first()).toBeVisible();
  await page.getByRole('button', { name: 'true size' }).click();
  // A1 is 841 mm wide; CSS has 96 pixels to 25.4 mm.
  await expect
    .poll(async () => Math.round((await page.locator('fx-page-viewer .sheet').boundingBox())!.width))
    .toBe(Math.round(((await paperWidth(page)) * 96) / 25.4));
});

/** Width of the paper shown, as the viewer says it in mm. */
async function paperWidth(page: Page): Promise<number> {
  const words = (await page.locator('fx-page-viewer .quiet').textContent()) ?? '';
  return Number(/(\d+) × \d+ mm/.exec(words)![1]);
}
