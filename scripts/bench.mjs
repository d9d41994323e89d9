// Measures writing and reading in one run, next to other tools, and whole runs with one worker and two; prints ratios and
// peak memory. `runs`: only publishing; `bucket`: only that with the store in a bucket; `small`: only many small sheets;
// `screen`: only the interface at 3 000 sheets; `large`: only a drawing of 1.3 million entities; `svg N FOLDER …`: only how
// far N SVG files of folders are from what librsvg draws; `nesting`: how much of a roll pages side by side take.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join, dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ownFolder } from './lib/own-folder.mjs';
import { ensureDebian, ensureNpm, FOR_TESTING } from './lib/packages.mjs';
import { runMain } from './lib/say.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

await runMain(async () => {
  await ensureNpm(ROOT);
  await ensureDebian(FOR_TESTING);
  const { buildNode, DIST } = await import('./build-node.mjs');
  await buildNode();
  const bench = (...args) => spawnSync(process.execPath, [join(DIST, 'bench.mjs'), ...args], { stdio: 'inherit' });
  const folder = ownFolder('folvex-bench-');
  try {
    if (['svg', 'large', 'nesting'].includes(process.argv[2])) {
      process.exitCode = bench(...process.argv.slice(2)).status ?? 1;
      return;
    }
    const page = join(folder, 'page.dxf');
    bench('page', page);
    const { benchBucket, benchRuns } = await import('./lib/bench-runs.mjs');
    const { benchSmallSheets } = await import('./lib/bench-small-sheets.mjs');
    const { benchScreen } = await import('./lib/bench-screen.mjs');
    if (process.argv[2] === 'screen') return await benchScreen();
    if (process.argv[2] === 'bucket') return await benchBucket(page);
    if (process.argv[2] === 'small') return await benchSmallSheets();
    if (process.argv[2] === 'runs') {
      await benchSmallSheets();
      return await benchRuns(page);
    }
    process.exitCode = bench().status ?? 1;
    await benchSmallSheets();
    await benchRuns(page);
    const sample = join(folder, 'bench.dxf');
    bench('sample', sample);
    const { onScreen } = await import('./lib/on-screen.mjs');
    await onScreen(sample);
    await benchScreen();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
