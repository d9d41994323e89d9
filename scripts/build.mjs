// Builds all that runs: the server, workers and the command into dist/, and the pages; installs npm's packages before.
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { ensureNpm } from './lib/packages.mjs';
import { runMain } from './lib/say.mjs';

await runMain(async () => {
  await ensureNpm(dirname(dirname(fileURLToPath(import.meta.url))));
  const { ensureNodeBuild } = await import('./build-node.mjs');
  const { ensureWebBuild } = await import('./lib/build-web.mjs');
  await ensureNodeBuild();
  await ensureWebBuild();
});
