// What takes too long for every test run: many more damaged files, within the memory that a small server has, many more
// kills of processes while they publish, and many more connections that break off while files are sent.
import { join } from 'node:path';
import { ROOT } from './build-node.mjs';
import { show } from './lib/commands.mjs';
import { ensureDebian, ensureNpm, FOR_TESTING } from './lib/packages.mjs';
import { runMain, Trouble } from './lib/say.mjs';

const FILES = process.env.FOLVEX_FUZZ ?? '20000';
const KILLS = process.env.FOLVEX_KILLS ?? '100';
const BREAKS = process.env.FOLVEX_BREAKS ?? '100';
const MAX_MEMORY_MB = 1024;

await runMain(async () => {
  await ensureDebian(FOR_TESTING);
  await ensureNpm(ROOT);
  const jest = join(ROOT, 'node_modules', 'jest', 'bin', 'jest.js');
  const node = ['--experimental-vm-modules', '--no-warnings', `--max-old-space-size=${MAX_MEMORY_MB}`];
  const wanted = ['--selectProjects', 'core', 'press', '--testPathPatterns', 'fuzz', 'random', '--runInBand'];
  const code = await show('node', [...node, jest, ...wanted], {
    cwd: ROOT,
    env: { ...process.env, FOLVEX_FUZZ: FILES },
  });
  if (code !== 0) throw new Trouble('The nightly tests failed; see above for the seed of the file.');
  const killing = [...node.slice(0, 2), jest, '--selectProjects', 'server', '--testPathPatterns', 'survival'];
  const survived = await show('node', killing, { cwd: ROOT, env: { ...process.env, FOLVEX_KILLS: KILLS } });
  if (survived !== 0) throw new Trouble('Something was lost when processes were killed; see above.');
  const sending = [...node.slice(0, 2), jest, '--selectProjects', 'press', '--testPathPatterns', 'transfer'];
  const sent = await show('node', sending, { cwd: ROOT, env: { ...process.env, FOLVEX_BREAKS: BREAKS } });
  if (sent !== 0) throw new Trouble('A file was lost, or half there, when connections broke off; see above.');
  const printing = [...node.slice(0, 2), jest, '--selectProjects', 'server', '--testPathPatterns', 'plots'];
  const printed = await show('node', printing, { cwd: ROOT, env: { ...process.env, FOLVEX_BREAKS: BREAKS } });
  if (printed !== 0) throw new Trouble('Paper came out twice, or not at all, when connections broke off; see above.');
});
