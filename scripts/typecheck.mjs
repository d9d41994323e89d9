// Type checks every workspace and its tests, two at a time, and only what changed since the last time.
import { createHash } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './build-node.mjs';
import { attempt } from './lib/commands.mjs';
import { runMain, Trouble } from './lib/say.mjs';

/** Each checks the sources of a workspace together with its tests; those that take longest come first. */
const PROJECTS = [
  'tsconfig.json',
  // By itself once more: it must get by without anything of Node or of a browser.
  'core/tsconfig.json',
  'e2e/tsconfig.json',
  'web/tsconfig.spec.json',
  'web/tsconfig.worker.json',
];
const CACHE = join(ROOT, 'node_modules', '.cache', 'types');

await runMain(async () => {
  mkdirSync(CACHE, { recursive: true });
  const waiting = [...PROJECTS];
  const failed = [];
  const lane = async () => {
    for (let project = waiting.shift(); project; project = waiting.shift()) {
      const { code, output } = await check(project);
      if (code !== 0) failed.push(`${project}\n${output}`);
    }
  };
  await Promise.all([lane(), lane()]);
  // The pages' own templates are checked by their build.
  if (failed.length > 0) throw new Trouble(failed.join('\n'));
});

/** Checks a project incrementally: what TypeScript found out is kept between runs. */
function check(project) {
  const name = createHash('sha256').update(project).digest('hex').slice(0, 12);
  const options = ['--noEmit', '--incremental', '--tsBuildInfoFile', join(CACHE, `${name}.tsbuildinfo`)];
  return attempt(join(ROOT, 'node_modules', '.bin', 'tsc'), [...options, '-p', project], { cwd: ROOT });
}
