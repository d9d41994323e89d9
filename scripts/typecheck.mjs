// Type checks every workspace and its tests, two at a time.
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './build-node.mjs';
import { attempt } from './lib/commands.mjs';
import { runMain, Trouble } from './lib/say.mjs';

const PROJECTS = [
  ...['core', 'contract', 'press', 'server', 'cli', 'demo', 'bench'].map((room) => `${room}/tsconfig.json`),
  ...['core', 'contract', 'press', 'server', 'cli', 'demo', 'scripts'].map((room) => `${room}/test/tsconfig.json`),
  'web/tsconfig.worker.json',
  'web/tsconfig.spec.json',
  'e2e/tsconfig.json',
];

await runMain(async () => {
  const waiting = PROJECTS.filter((project) => existsSync(join(ROOT, project)));
  const failed = [];
  const lane = async () => {
    for (let project = waiting.shift(); project; project = waiting.shift()) {
      const tsc = join(ROOT, 'node_modules', '.bin', 'tsc');
      const { code, output } = await attempt(tsc, ['--noEmit', '-p', project], { cwd: ROOT });
      if (code !== 0) failed.push(`${project}\n${output}`);
    }
  };
  await Promise.all([lane(), lane()]);
  // The pages' own templates are checked by their build.
  if (failed.length > 0) throw new Trouble(failed.join('\n'));
});
