// Mixed work on a Folvex of its own for an hour, or for as many minutes as are given, with kills; then memory, open files
// and disk must be as they were after the first quarter. `npm run soak -- 10`: ten minutes.
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, rmSync, statSync, utimesSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { ownFolder } from './lib/own-folder.mjs';
import { ensureDebian, ensureNpm, FOR_RUNNING } from './lib/packages.mjs';
import { runMain } from './lib/say.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const MINUTES = Number(process.argv[2] ?? 60);
/** What may grow from the second quarter to the last one: processes find their size slowly. */
const MAX_GROWTH = { memory: 1.25, descriptors: 1.2, disk: 1.25, database: 1.5 };
const KEPT_RUNS = 3;
const CYCLES_A_SWEEP = 10;

await runMain(async () => {
  await ensureNpm(ROOT);
  await ensureDebian(FOR_RUNNING);
  const { default: pg } = await import('pg');
  const { startInstance } = await import('./lib/instance.mjs');
  const { freePort } = await import('./lib/postgres.mjs');
  const { keepRunning } = await import('./lib/services.mjs');
  const data = ownFolder('folvex-soak-');
  const port = await freePort();
  const instance = await startInstance(data, {
    settings: { FOLVEX_PORT: String(port), FOLVEX_KEEP_REMOVED_DAYS: '0', FOLVEX_LOG: 'silent', FOLVEX_THREADS: '1' },
  });
  let steady;
  const pool = new pg.Pool({ connectionString: instance.environment.DATABASE_URL });
  pool.on('error', () => undefined);
  try {
    await instance.ready;
    steady = keepRunning('worker', instance.environment);
    await steady.ready;
    const office = await openOffice(`http://127.0.0.1:${port}`);
    const samples = [];
    const end = Date.now() + MINUTES * 60_000;
    for (let cycle = 0; Date.now() < end; cycle++) {
      await office.cycle(cycle);
      kill(cycle, instance);
      if (cycle % CYCLES_A_SWEEP < CYCLES_A_SWEEP - 1) continue;
      await sweep(pool, data, instance.environment);
      const sample = await measure(pool, data, { server: instance.server.pid, worker: steady.pid });
      samples.push(sample);
      console.log(
        `${cycle + 1} cycles: ${Object.entries(sample)
          .map(([what, value]) => `${what} ${value}`)
          .join(', ')}`,
      );
    }
    report(samples);
  } finally {
    await pool.end();
    await steady?.stop();
    await instance.remove();
    rmSync(data, { recursive: true, force: true });
  }
});

/** Somebody who edits, sends drawings, publishes, downloads and removes; what fails while something restarts is tried again. */
async function openOffice(base) {
  const call = async (method, path, body) => {
    for (let attempt = 0; ; attempt++) {
      try {
        const form = body instanceof FormData;
        const response = await fetch(base + path, {
          method,
          ...(body && { body: form ? body : JSON.stringify(body) }),
          ...(body && !form && { headers: { 'Content-Type': 'application/json' } }),
        });
        if (response.status < 500) {
          const bytes = Buffer.from(await response.arrayBuffer());
          if (!response.ok) throw new Refused(`${method} ${path}: ${response.status} ${bytes.toString()}`);
          return response.headers.get('content-type')?.includes('json') ? JSON.parse(bytes.toString()) : bytes;
        }
      } catch (error) {
        if (error instanceof Refused || attempt > 60) throw error;
      }
      await setTimeout(500);
    }
  };
  const [{ id: project }] = await call('GET', '/api/projects');
  const at = `/api/projects/${project}`;
  const { sheets, packages } = await call('GET', at);
  return {
    async cycle(number) {
      const { id: sheet } = sheets[number % sheets.length];
      await call('PATCH', `${at}/sheets/${sheet}`, { title: `Soaked ${number}` });
      await call('GET', `${at}/sheets/${sheet}/page`);
      const form = new FormData();
      form.append('file', new Blob([drawingOf(number)]), `soak-${number}.dxf`);
      const { drawing } = await call('POST', `${at}/drawings`, form);
      await call('GET', `/api/drawings/${drawing.id}/spaces/0/page`);
      await call('PUT', `/api/drawings/${drawing.id}/removed`, { removed: true });
      const { id } = await call('POST', `${at}/packages/${packages[number % packages.length].id}/runs`, {});
      let run;
      do {
        await setTimeout(200);
        run = await call('GET', `/api/runs/${id}`);
      } while (!['done', 'failed'].includes(run.state) || run.files.some(({ proof }) => !proof));
      if (run.state !== 'done') throw new Error(`a run failed: ${JSON.stringify(run.problem)}`);
      await call('GET', `/api/runs/${id}/files.zip`);
      const { runs } = await call('GET', at);
      for (const old of runs.filter(({ removedAt }) => !removedAt).slice(KEPT_RUNS))
        await call('PUT', `/api/runs/${old.id}/removed`, { removed: true });
    },
  };
}

class Refused extends Error {}

function drawingOf(number) {
  const line = (y) => `0\nLINE\n8\n0\n10\n0\n20\n${y}\n11\n${number + 1000}\n21\n${y}\n`;
  const lines = Array.from({ length: 500 }, (_, y) => line(y)).join('');
  return `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${lines}0\nENDSEC\n0\nEOF\n`;
}

/** Kills, in turn, one of the workers and the process that reads drawings for the server. */
function kill(cycle, instance) {
  if (cycle % 3 === 1 && instance.worker().pid) process.kill(instance.worker().pid, 'SIGKILL');
  if (cycle % 3 === 2) for (const pid of childrenOf(instance.server.pid)) process.kill(pid, 'SIGKILL');
}

function childrenOf(pid) {
  const text = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim();
  return text === '' ? [] : text.split(' ').map(Number);
}

/** Sweeps as if a month had passed since anything was used. */
async function sweep(pool, data, environment) {
  await pool.query(`update artifacts set used_at = now() - interval '31 days'`);
  const old = (Date.now() - 25 * 3600_000) / 1000;
  for (const file of filesIn(join(data, 'store'))) utimesSync(file, old, old);
  execFileSync(process.execPath, [join(ROOT, 'dist', 'maintain.mjs'), 'sweep'], {
    env: { ...process.env, ...environment },
  });
}

function filesIn(folder) {
  const entries = readdirSync(folder, { recursive: true, withFileTypes: true });
  return entries.filter((entry) => entry.isFile()).map(({ parentPath, name }) => join(parentPath, name));
}

/** Memory, MB, and open files of the processes that are never killed; bytes of the store and the database, MB. */
async function measure(pool, data, { server, worker }) {
  const memory = (pid) =>
    Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024);
  const descriptors = (pid) => readdirSync(`/proc/${pid}/fd`).length;
  const bytes = filesIn(join(data, 'store')).reduce((sum, file) => sum + statSync(file).size, 0);
  const { rows } = await pool.query('select pg_database_size(current_database()) as bytes');
  return {
    'memory of the server': memory(server),
    'memory of the worker': memory(worker),
    'descriptors of the server': descriptors(server),
    'descriptors of the worker': descriptors(worker),
    'disk of the store': Math.round(bytes / 1e4) / 100,
    database: Math.round(Number(rows[0].bytes) / 1e6),
  };
}

/** Compares the medians of the second quarter and the last one; throws where something grew. */
function report(samples) {
  if (samples.length < 8) throw new Error(`only ${samples.length} samples; give it more minutes`);
  const quarter = Math.floor(samples.length / 4);
  const median = (part, what) => part.map((sample) => sample[what]).sort((a, b) => a - b)[Math.floor(part.length / 2)];
  const grown = [];
  for (const what of Object.keys(samples[0])) {
    const before = median(samples.slice(quarter, 2 * quarter), what);
    const after = median(samples.slice(-quarter), what);
    const most = MAX_GROWTH[what.split(' ')[0]];
    console.log(
      `${what.padEnd(28)} ${before} then ${after}  × ${(after / before).toFixed(2)}, wanted: at most ${most}`,
    );
    if (after / before > most) grown.push(what);
  }
  if (grown.length > 0) throw new Error(`not flat: ${grown.join(', ')}`);
}
