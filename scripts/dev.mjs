// Folvex for those who work on it: pages, server and worker follow every change of their sources.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { watchNode, ROOT } from './build-node.mjs';
import { startDatabase } from './lib/instance.mjs';
import { ensureDebian, ensureNpm, FOR_RUNNING } from './lib/packages.mjs';
import { runMain, say } from './lib/say.mjs';
import { keepRunning } from './lib/services.mjs';

const PAGES_PORT = '4200';

await runMain(async () => {
  await ensureNpm(ROOT);
  await ensureDebian(FOR_RUNNING);
  const { environment, stop: stopDatabase } = await startDatabase(join(ROOT, '.folvex-dev'));
  let services = [];
  const stopServices = () => Promise.all(services.map((service) => service.stop()));
  const watching = await watchNode(async () => {
    await stopServices();
    services = ['server', 'worker'].map((name) => keepRunning(name, environment));
    await Promise.all(services.map(({ ready }) => ready)).then(
      () => say('Server and worker run the sources as they are now.'),
      () => say('They will start again after the next change.'),
    );
  });
  const pages = spawn(
    join(ROOT, 'node_modules', '.bin', 'ng'),
    ['serve', '--port', PAGES_PORT, '--proxy-config', 'scripts/dev-proxy.json'],
    { cwd: ROOT, stdio: 'inherit', env: { ...process.env, NG_CLI_ANALYTICS: 'false' } },
  );
  say(`The pages will be at http://127.0.0.1:${PAGES_PORT} once they are built.`);
  const stop = async () => {
    pages.kill('SIGTERM');
    await watching.dispose();
    await stopServices();
    await stopDatabase();
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop());
});
