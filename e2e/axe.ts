import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import type { AxeResults } from 'axe-core';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
/** WCAG 2.2 AA, and what axe-core holds for good practice beyond it. */
const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

async function analysed(page: Page): Promise<string[]> {
  const { violations: found } = (await page.evaluate(
    (tags) =>
      (globalThis as unknown as { axe: { run(context: Document, options: object): Promise<unknown> } }).axe.run(
        document,
        // Menus and dialogs lie outside the landmarks of the page.
        { runOnly: tags, rules: { region: { enabled: !document.querySelector('.cdk-overlay-backdrop') } } },
      ),
    TAGS,
  )) as AxeResults;
  return found.flatMap(({ id, nodes }) => nodes.slice(0, 3).map(({ target }) => `${id}: ${target.join(' ')}`));
}

/** What axe-core finds wrong on the page as it is, a line each: `rule: element`. */
export async function violations(page: Page): Promise<string[]> {
  await page.evaluate(AXE);
  if ((await analysed(page)).length === 0) return [];
  // Angular adds a part that it has just fetched before it fills in its words; what is wrong then may be right by now.
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  return analysed(page);
}
