// Measures writing and reading in one run, beside other tools; prints ratios and peak memory.
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
  process.exitCode = bench().status ?? 1;
  const folder = ownFolder('folvex-bench-');
  try {
    const sample = join(folder, 'bench.dxf');
    bench('sample', sample);
    const { onScreen } = await import('./lib/on-screen.mjs');
    await onScreen(sample);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
