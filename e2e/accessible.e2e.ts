import type { Page } from '@playwright/test';
import { violations } from './axe';
import { expect, go, test } from './folvex';

/** Buttons, links and captions whose words are cut off at this width. */
async function clipped(page: Page): Promise<string[]> {
  return page.evaluate(() =>
    Array.from(document.querySelectorAll<HTMLElement>('button, a, h1, h2, .fx-caption, mat-checkbox label'))
      .filter((one) => one.checkVisibility() && getComputedStyle(one).textOverflow !== 'ellipsis')
      // The ripple of a list item is larger than the item; its words are looked at below.
      .filter((one) => !one.matches('.mat-mdc-list-item'))
      .concat(Array.from(document.querySelectorAll<HTMLElement>('.mdc-list-item__primary-text')))
      .filter((one) => one.scrollWidth > one.clientWidth + 1 && getComputedStyle(one).display !== 'inline')
      .filter((one) => !one.closest('.fx-visually-hidden, fx-page-strip, mat-icon'))
      .map((one) => `${one.tagName} ${one.textContent!.trim().slice(0, 40)}`),
  );
}

/** Shows each place once; `look` is told its name. */
async function everyPlace(page: Page, look: (name: string) => Promise<void>): Promise<void> {
  await page.getByRole('button', { name: 'Quick search' }).click();
  await page.keyboard.type('API reference');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /Publishes a package/ }).click();
  await page.getByRole('button', { name: 'RunOptions' }).click();
  await page.getByRole('heading', { name: 'RunOptions' }).waitFor();
  await look('API reference');
  await page.goBack();
  await go(page, 'Gather');
  await page.locator('fx-drawing-card').first().waitFor();
  await look('Gather, cards');
  await page.getByRole('radio', { name: 'Table' }).click();
  await look('Gather, table');
  await page.getByRole('link', { name: 'ground-floor.dxf' }).click();
  await page.locator('fx-drawing-canvas').waitFor();
  await look('Drawing');
  await go(page, 'Sheets');
  await page.getByRole('option', { name: /A-101/ }).click();
  // The panel is fetched, and in the page before its words are.
  await page.locator('fx-chosen-panel').getByRole('heading', { name: 'A-101' }).waitFor();
  await look('Sheets, wall');
  await page.getByRole('radio', { name: 'List' }).click();
  await look('Sheets, list');
  await page.getByRole('link', { name: 'Open A-101' }).click();
  await page.locator('fx-placed-views rect.view').first().waitFor();
  await look('Sheet');
  await page.getByRole('link', { name: 'Pens', exact: true }).click();
  await page.locator('fx-pens-place canvas').first().waitFor();
  await look('Pens');
  await go(page, 'Package');
  await page.locator('fx-page-strip .page').first().waitFor();
  await look('Package, strip');
  for (const way of ['Grid', 'Table']) {
    await page.getByRole('radio', { name: way }).click();
    await look(`Package, ${way.toLowerCase()}`);
  }
  await page.getByRole('radio', { name: 'Strip' }).click();
  await page.getByRole('button', { name: /^More for/ }).click();
  await look('Package, menu');
  await page.getByRole('menuitem', { name: 'Remove …' }).click();
  await look('Package, dialog');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await go(page, 'Light table');
  await look('Light table');
  await go(page, 'Issues');
  await look('Issues');
  await page.getByRole('radio', { name: /Relink/ }).click();
  await look('Relink');
  await page.getByRole('link', { name: 'Settings', exact: true }).click();
  const sections = page.getByRole('navigation', { name: 'Settings' }).getByRole('button');
  for (let at = 0; at < (await sections.count()); at++) {
    await sections.nth(at).click();
    await look(`Settings, ${await sections.nth(at).textContent()}`);
  }
  await page.getByRole('button', { name: /people in this project/i }).click();
  await look('People');
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Keyboard shortcuts' }).click();
  await look('Shortcuts');
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('link', { name: 'Projects' }).click();
  await page.getByRole('button', { name: 'New project' }).click();
  await look('Projects');
}

for (const light of ['light', 'dark'] as const) {
  test(`axe-core finds nothing wrong with any place, menu and dialog, ${light}`, async ({ folvex: page }) => {
    await page.emulateMedia({ colorScheme: light, reducedMotion: 'reduce' });
    const wrong: string[] = [];
    await everyPlace(page, async (name) => {
      wrong.push(...(await violations(page)).map((line) => `${name}: ${line}`));
    });
    expect(wrong).toEqual([]);
  });
}

for (const [width, height] of [
  // 1280 × 800 at a zoom of 200 % (WCAG 2.2, 1.4.4).
  [640, 400],
  [1024, 700],
  [1280, 800],
  [1920, 1080],
  [2560, 1440],
] as const) {
  test(`nothing is cut off at ${width} × ${height}`, async ({ folvex: page }) => {
    await page.setViewportSize({ width, height });
    const wrong: string[] = [];
    await everyPlace(page, async (name) => {
      wrong.push(...(await clipped(page)).map((line) => `${name}: ${line}`));
      const wider = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
      if (wider > 0) wrong.push(`${name}: the page is ${wider} px too wide`);
    });
    expect(wrong).toEqual([]);
  });
}
