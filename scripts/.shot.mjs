import { rmSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { CHROMIUM } from './lib/browser.mjs';
import { startInstance } from './lib/instance.mjs';
import { ownFolder } from './lib/own-folder.mjs';
import { freePort } from './lib/postgres.mjs';
const data = ownFolder('folvex-shots-');
const port = await freePort();
const instance = await startInstance(data, { settings: { FOLVEX_PORT: String(port) } });
await instance.ready;
const browser = await chromium.launch(CHROMIUM);
const page = await browser.newPage({
  viewport: { width: 1280, height: 800 },
  colorScheme: process.env.DARK ? 'dark' : 'light',
  baseURL: `http://127.0.0.1:${port}`,
});
page.on('console', (m) => m.type() === 'error' && console.log('console', m.text()));
page.on('pageerror', (e) => console.log('pageerror', e.message));
try {
  const { default: run } = await import(process.argv[2]);
  await run(page, (name) => page.screenshot({ path: `/tmp/shots/${name}.png` }), port);
} catch (e) {
  console.log(e.message);
  await page.screenshot({ path: '/tmp/shots/error.png' });
}
await browser.close();
await instance.stop();
rmSync(data, { recursive: true, force: true });
