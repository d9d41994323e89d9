import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { newest, ROOT } from '../build-node.mjs';
import { attempt } from './commands.mjs';
import { say, Trouble } from './say.mjs';

export const WEB_FOLDER = join(ROOT, 'dist', 'web', 'browser');

/** Builds the pages when a source is newer than the build, or there is none. */
export async function ensureWebBuild() {
  const built = join(WEB_FOLDER, 'index.html');
  const sources = ['core', 'contract', 'web'].map((room) => join(ROOT, room, 'src'));
  if (existsSync(built) && newest(sources) <= statSync(built).mtimeMs) return;
  say('Building the pages …');
  const ng = join(ROOT, 'node_modules', '.bin', 'ng');
  const env = { ...process.env, NG_CLI_ANALYTICS: 'false', CI: 'true' };
  const { code, output } = await attempt(ng, ['build', '--configuration', 'production'], { cwd: ROOT, env });
  if (code !== 0) throw new Trouble(`The pages could not be built:\n${output}`);
}
