// Puts in place what the tests need, then runs all of them; ends with one line `N passed, N failed`.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';
import { show } from './lib/commands.mjs';
import { ensureDebian, ensureNpm, FOR_TESTING } from './lib/packages.mjs';
import { runMain, say } from './lib/say.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const bin = (name) => join(ROOT, 'node_modules', '.bin', name);
const total = { passed: 0, failed: 0 };

await runMain(async () => {
  await ensureNpm(ROOT);
  await ensureDebian(FOR_TESTING);
  // Imported late: these need the npm packages.
  const { buildNode } = await import('./build-node.mjs');
  const { ensureWebBuild } = await import('./lib/build-web.mjs');
  const folder = mkdtempSync(join(tmpdir(), 'folvex-test-'));
  try {
    await step('Build', async () => {
      await buildNode();
      await ensureWebBuild();
      return true;
    });
    await step('Lint', () => runs(bin('eslint'), ['.'], bin('prettier'), ['--check', '--log-level', 'warn', '.']));
    await step('Types', () => runs(process.execPath, [join(ROOT, 'scripts', 'typecheck.mjs')]));
    await step('Unit, server and component tests', () => jest(join(folder, 'jest.json')), false);
    await step('End-to-end tests', () => playwright(join(folder, 'playwright.json')), false);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  say(`\n${total.passed} passed, ${total.failed} failed`);
  if (total.failed > 0) process.exitCode = 1;
});

/** Runs a step and says how long it took. One that is not made of tests counts as one check itself. */
async function step(name, run, counts = true) {
  say(`\n== ${name}`);
  const start = performance.now();
  const good = await run().catch((error) => {
    console.error(error.message);
    return false;
  });
  if (counts) total[good ? 'passed' : 'failed']++;
  say(`== ${name}: ${((performance.now() - start) / 1000).toFixed(0)} s`);
}

/** Commands one after the other, all of them; true when all end well. */
async function runs(...commands) {
  let good = true;
  for (let i = 0; i < commands.length; i += 2) {
    good = (await show(commands[i], commands[i + 1], { cwd: ROOT })) === 0 && good;
  }
  return good;
}

async function jest(report) {
  const flags = ['--experimental-vm-modules', '--no-warnings', join(ROOT, 'node_modules', 'jest', 'bin', 'jest.js')];
  await show(process.execPath, [...flags, '--silent', '--json', `--outputFile=${report}`], {
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
