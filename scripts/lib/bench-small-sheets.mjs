import { spawnSync } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../build-node.mjs';
import { startInstance } from './instance.mjs';
import { ownFolder } from './own-folder.mjs';
import { freePort } from './postgres.mjs';

const LAYOUTS = 251;
/** Of each, in turn; the quickest counts. */
const ROUNDS = 3;
const PACKAGES = ['warm-up', ...Array.from({ length: ROUNDS }, (_, round) => `round-${round}`)];
const POLL_MS = 50;

/**
 * Publishes many small layouts of one drawing by the headless command and through server, queue and worker, with as many
 * threads each; prints the ratio.
 */
export async function benchSmallSheets() {
  const data = ownFolder('folvex-bench-small-');
  const drawing = join(data, 'layouts.dxf');
  spawnSync('/usr/bin/python3', [join(ROOT, 'bench', 'layouts.py'), drawing, String(LAYOUTS)], { stdio: 'inherit' });
  const job = join(data, 'small.job.json');
  writeFileSync(job, JSON.stringify(jobOf(drawing)));
  const port = await freePort();
  const settings = { FOLVEX_PORT: String(port), FOLVEX_DEMO: job };
  const instance = await startInstance(join(data, 'instance'), { settings });
  try {
    await instance.ready;
    const base = `http://127.0.0.1:${port}`;
    const [{ id: project }] = await (await fetch(`${base}/api/projects`)).json();
    const [command, queue] = [[], []];
    for (const [i, pack] of PACKAGES.entries()) {
      command.push(commandOnce(job, pack, join(data, `out-${i}`)));
      queue.push(await queueOnce(base, project, pack));
    }
    const [own, through] = [command, queue].map((times) => Math.min(...times.slice(1)));
    console.log(`\nPublishing ${LAYOUTS} small layouts of one drawing into one file (quickest of ${ROUNDS})`);
    line('headless command, its start included', `${(own / 1000).toFixed(1)} s`);
    line('through server, queue and worker', `${(through / 1000).toFixed(1)} s`);
    line('queue over command', `× ${(through / own).toFixed(2)}`, 'wanted: at most 1.5');
  } finally {
    await instance.remove();
    rmSync(data, { recursive: true, force: true });
  }
}

/** Packages that differ in a stamp, so that none takes sheets from another. */
function jobOf(drawing) {
  const sheets = Array.from({ length: LAYOUTS }, (_, i) => {
    const number = `S-${String(i + 1).padStart(3, '0')}`;
    return { id: `s${i}`, number, title: '', from: { drawing: 'd', layout: number } };
  });
  const packages = PACKAGES.map((id) => ({
    ...{ id, name: id, order: sheets.map((sheet) => sheet.id), names: { bundle: '[package.name]' } },
    stamps: [{ text: id, at: 'bottom', size: 3, colour: 0 }],
  }));
  return {
    folvex: 4,
    project: { number: '1', name: 'Small' },
    drawings: [{ id: 'd', file: drawing }],
    sheets,
    packages,
  };
}

function commandOnce(job, pack, out) {
  const start = performance.now();
  const args = [join(ROOT, 'cli', 'bin', 'folvex.mjs'), 'publish', job, '--package', pack, '--out', out];
  const { status, stderr } = spawnSync(process.execPath, args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
  return performance.now() - start;
}

/** From the request to the end of the run by the server's clock. */
async function queueOnce(base, project, pack) {
  const asked = Date.now();
  const response = await fetch(`${base}/api/projects/${project}/packages/${pack}/runs`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: '{}',
  });
  const { id } = await response.json();
  for (;;) {
    const { state, problem, files, sheets, finishedAt } = await (await fetch(`${base}/api/runs/${id}`)).json();
    if (state === 'failed') throw new Error(problem.sentence);
    // Reading the files again comes after the run, and must not fall into the next one.
    if (sheets.some((sheet) => sheet.state === 'done' && !sheet.worker)) throw new Error('a sheet came from the store');
    if (state === 'done' && files.every(({ proof }) => proof)) return Date.parse(finishedAt) - asked;
    await new Promise((resolve) => setTimeout(resolve, POLL_MS * (state === 'done' ? 4 : 10)));
  }
}

function line(what, value, remark = '') {
  console.log(`${what.padEnd(44)}${value.padStart(12)}  ${remark}`);
}
