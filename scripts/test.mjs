// Puts in place what the tests need, then runs all of them; ends with one line `N passed, N failed`.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';
import { attempt, show } from './lib/commands.mjs';
import { ensureDebian, ensureNpm, FOR_TESTING } from './lib/packages.mjs';
import { runMain, say } from './lib/say.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const total = { passed: 0, failed: 0 };

await runMain(async () => {
  await ensureNpm(ROOT);
  await ensureDebian(FOR_TESTING);
  // Imported late: these need the npm packages.
  const { buildNode } = await import('./build-node.mjs');
  const { ensureWebBuild } = await import('./lib/build-web.mjs');
  const folder = mkdtempSync(join(tmpdir(), 'folvex-test-'));
  const start = performance.now();
  try {
    // Each lane keeps one core busy; what waits for processes of its own fills the gaps.
    await Promise.all([
      steps(['Build of server and command', buildNode], ['Build of the pages', ensureWebBuild]),
      steps(['Generated files', () => node('scripts/generate.mjs', '--check')], ['Lint', lint], ['Format', format]),
    ]);
    await step('Types', () => quiet(bin('tsc'), '-b'));
    await step('Unit, server and component tests', () => jest(join(folder, 'jest.json')), false);
    await step('End-to-end tests', () => playwright(join(folder, 'playwright.json')), false);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  say(`\nAll steps: ${seconds(start)} s`);
  say(`\n${total.passed} passed, ${total.failed} failed`);
  if (total.failed > 0) process.exitCode = 1;
});

/** Steps one after the other. */
async function steps(...list) {
  for (const [name, run] of list) await step(name, run);
}

/** Runs a step and says how long it took. One that is not made of tests counts as one check itself. */
async function step(name, run, counts = true) {
  const start = performance.now();
  const good = await Promise.resolve(run()).catch((error) => {
    console.error(error.message);
    return false;
  });
  if (counts) total[good === false ? 'failed' : 'passed']++;
  say(`== ${name}: ${seconds(start)} s${good === false ? ', FAILED' : ''}`);
}

function seconds(start) {
  return ((performance.now() - start) / 1000).toFixed(0);
}

/** Runs a command and shows its output where it fails; true when it ends well. */
async function quiet(command, ...args) {
  const { code, output } = await attempt(command, args, { cwd: ROOT });
  if (code !== 0) console.error(output);
  return code === 0;
}

function bin(name) {
  return join(ROOT, 'node_modules', '.bin', name);
}

function node(script, ...args) {
  return quiet(process.execPath, join(ROOT, script), ...args);
}

function lint() {
  return quiet(bin('eslint'), '.', '--cache', '--cache-location', 'node_modules/.cache/eslint/');
}

function format() {
  return quiet(bin('prettier'), '--check', '--log-level', 'warn', '.');
}

async function jest(report) {
  const flags = ['--experimental-vm-modules', '--no-warnings', join(ROOT, 'node_modules', 'jest', 'bin', 'jest.js')];
  const workers = `--maxWorkers=${Math.max(2, cpus().length)}`;
  await show(process.execPath, [...flags, workers, '--silent', '--json', `--outputFile=${report}`], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(readFileSync(report, 'utf8'));
  total.passed += numPassedTests;
  total.failed += numFailedTests + numRuntimeErrorTestSuites;
}

async function playwright(report) {
  await show(bin('playwright'), ['test', '-c', 'e2e/playwright.config.ts', '--reporter=list,json'], {
    cwd: ROOT,
    env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: report },
  });
  const { stats, errors } = JSON.parse(readFileSync(report, 'utf8'));
  total.passed += stats.expected;
  // What did not run because something before it failed has not passed either.
  total.failed += stats.unexpected + stats.skipped + errors.length;
}
