// The end-to-end tests next to two processes that keep two cores busy: what only passes on a calm machine shows here.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { ROOT } from './build-node.mjs';
import { show } from './lib/commands.mjs';
import { ensureDebian, ensureNpm, FOR_TESTING } from './lib/packages.mjs';
import { runMain, Trouble } from './lib/say.mjs';

const BUSY_LOOPS = 2;

await runMain(async () => {
  await ensureNpm(ROOT);
  await ensureDebian(FOR_TESTING);
  const loops = Array.from({ length: BUSY_LOOPS }, () => spawn(process.execPath, ['-e', 'for (;;);']));
  try {
    const playwright = join(ROOT, 'node_modules', '.bin', 'playwright');
    const args = ['test', '-c', 'e2e/playwright.config.ts', ...process.argv.slice(2)];
    const code = await show(playwright, args, { cwd: ROOT });
    if (code !== 0) throw new Trouble('Some end-to-end tests failed on a busy machine; see above.');
  } finally {
    for (const loop of loops) loop.kill('SIGKILL');
  }
});
