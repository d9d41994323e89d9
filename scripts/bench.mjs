// Measures writing and reading in one run, beside other tools; prints ratios and peak memory.
import { spawnSync } from 'node:child_process';
import { join, dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ensureDebian, ensureNpm, FOR_TESTING } from './lib/packages.mjs';
import { runMain } from './lib/say.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

await runMain(async () => {
  await ensureNpm(ROOT);
  await ensureDebian(FOR_TESTING);
  const { buildNode, DIST } = await import('./build-node.mjs');
  await buildNode();
  process.exitCode = spawnSync(process.execPath, [join(DIST, 'bench.mjs')], { stdio: 'inherit' }).status ?? 1;
});
