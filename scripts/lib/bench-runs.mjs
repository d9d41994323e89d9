import { copyFileSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import S3rver from 's3rver';
import { startInstance } from './instance.mjs';
import { ownFolder } from './own-folder.mjs';
import { freePort } from './postgres.mjs';
import { keepRunning } from './services.mjs';

const FEW = 100;
const MANY = 1000;
/** Seldom, since each look costs the server what the workers could use. */
const POLL_MS = 1000;
/** A single reading of so short a run varies; their sum less. */
const READINGS = 2;

/**
 * Publishes sheets of a drawing through whole Folvexes of their own, with one worker and with two, of one thread each: with
 * the store in a folder, then in a bucket; prints ratios and the peak memory of workers.
 */
export async function benchRuns(drawing) {
  const folder = await withInstance(drawing, {}, async (set, workers) => {
    console.log(`\nPublishing sheets of the sample page through the queue, a file a run, workers of one thread`);
    const { one, two } = await oneAndTwo(set, workers);
    const many = await set.publish(MANY, 'many');
    line(`${MANY} sheets in one file, two workers`, `${seconds(many)} s`);
    const ratio = many / MANY / (two / FEW);
    line(`a sheet of ${MANY} over a sheet of ${FEW}`, `× ${ratio.toFixed(2)}`, 'wanted: at most 1.15');
    line('peak memory of a worker', `${Math.max(...workers.pids().map(peakMb))} MB`, 'wanted: under 700');
    const again = await set.publishAfterOneChange(MANY, 'many');
    const share = (100 * again) / many;
    line('the same again after one sheet changed', `${seconds(again)} s`, `${share.toFixed(1)} %, wanted: under 5 %`);
    return { one, two };
  });
  await benchBucket(drawing, folder);
}

/** The same with the store in a bucket; `folder`: the times with a folder, to compare with. */
export async function benchBucket(drawing, folder) {
  const objects = ownFolder('folvex-bench-bucket-');
  const service = new S3rver({
    ...{ address: '127.0.0.1', port: 0, silent: true, directory: objects },
    configureBuckets: [{ name: 'plans' }],
  });
  try {
    const { port } = await service.run();
    const settings = {
      FOLVEX_BUCKET: `http://127.0.0.1:${port}/plans`,
      ...{ AWS_ACCESS_KEY_ID: 'S3RVER', AWS_SECRET_ACCESS_KEY: 'S3RVER' },
    };
    await withInstance(drawing, settings, async (set, workers) => {
      console.log(`\nPublishing with the store in a bucket, whose service (s3rver) is on this machine too`);
      const { one, two } = await oneAndTwo(set, workers);
      if (!folder) return;
      line('bucket over folder, one worker', `× ${(one / folder.one).toFixed(2)}`);
      line('bucket over folder, two workers', `× ${(two / folder.two).toFixed(2)}`);
    });
  } finally {
    await service.close();
    rmSync(objects, { recursive: true, force: true });
  }
}

/** Starts a Folvex with many sheets of a drawing and one worker; `workers` starts the second one. */
async function withInstance(drawing, settings, use) {
  const data = ownFolder('folvex-bench-runs-');
  const port = await freePort();
  const job = join(data, 'bench.job.json');
  // Job files reach no file outside their folder.
  copyFileSync(drawing, join(data, 'page.dxf'));
  writeFileSync(job, JSON.stringify(jobOf('page.dxf', MANY)));
  const instance = await startInstance(data, {
    settings: { FOLVEX_PORT: String(port), FOLVEX_THREADS: '1', FOLVEX_DEMO: job, ...settings },
  });
  let second;
  const workers = {
    startSecond: () => {
      second = keepRunning('worker', { ...process.env, ...instance.environment });
      return second.ready;
    },
    pids: () => [instance.worker().pid, second.pid],
  };
  try {
    await instance.ready;
    return await use(await openSet(clientOf(`http://127.0.0.1:${port}`)), workers);
  } finally {
    await second?.stop();
    await instance.remove();
    rmSync(data, { recursive: true, force: true });
  }
}

/** Times of a run of few sheets with one worker and with two, ms. */
async function oneAndTwo(set, workers) {
  // Threads read and keep the drawing, and find their pace.
  await set.publish(10, 'warm up');
  const one = (await sumOf(READINGS, (reading) => set.publish(FEW, `one worker ${reading}`))) / READINGS;
  line(`${FEW} sheets, one worker`, `${seconds(one)} s`);
  await workers.startSecond();
  await set.publish(10, 'warm up again');
  const two = (await sumOf(READINGS, (reading) => set.publish(FEW, `two workers ${reading}`))) / READINGS;
  line(`${FEW} sheets, two workers`, `${seconds(two)} s`);
  line('one worker over two', `× ${(one / two).toFixed(2)}`, 'wanted: at least 1.7');
  return { one, two };
}

/** The sum of readings in milliseconds, each of them printed. */
async function sumOf(readings, read) {
  let sum = 0;
  for (let reading = 1; reading <= readings; reading++) {
    const milliseconds = await read(reading);
    line('', `${seconds(milliseconds)} s`);
    sum += milliseconds;
  }
  return sum;
}

function clientOf(base) {
  return async (method, path, body) => {
    const form = body instanceof FormData;
    const response = await fetch(base + path, {
      method,
      ...(body && { body: form ? body : JSON.stringify(body) }),
      ...(body && !form && { headers: { 'Content-Type': 'application/json' } }),
    });
    if (!response.ok) throw new Error(`${response.status} ${await response.text()}`);
    return response.json();
  };
}

/** A job of the given number of sheets, each of which shows all of a drawing. */
function jobOf(drawing, sheets) {
  const paper = { name: 'A1', orientation: 'landscape' };
  const view = { drawing: 'page', space: 'model', window: 'extents', scale: '1:1', at: 'centre', label: '' };
  return {
    folvex: 4,
    project: { number: '1', name: 'Bench' },
    drawings: [{ id: 'page', file: drawing }],
    groups: [],
    recipes: [{ id: 'colour', name: 'Full colour, layers', colour: 'full', layers: 'shown' }],
    sheets: Array.from({ length: sheets }, (_, at) => ({
      ...{ id: `s${at}`, number: `B-${at + 1}`, title: 'Bench', group: '', paper, frame: 'iso5457' },
      views: [{ id: 'v1', ...view }],
    })),
    packages: [
      {
        ...{ id: 'bench', name: 'Bench', recipe: 'colour', order: [], bundling: 'one' },
        names: { file: '[sheet.number]', folder: '', bundle: '[package.name]' },
      },
    ],
  };
}

/** The project of that job, and its package to publish the first of its sheets with. */
async function openSet(client) {
  const [{ id: project }] = await client('GET', '/api/projects');
  const at = `/api/projects/${project}`;
  const {
    sheets,
    packages: [pack],
  } = await client('GET', at);
  const ids = sheets.map(({ id }) => id);
  const run = async (count, said) => {
    const package_ = `${at}/packages/${pack.id}`;
    // A stamp that says something else makes every page another one.
    const stamps = [{ text: said, at: 'bottom', size: 3, colour: 0 }];
    await client('PATCH', package_, { order: ids.slice(0, count), stamps });
    const asked = Date.now();
    const { id } = await client('POST', `${package_}/runs`, {});
    for (;;) {
      const { state, problem, files, finishedAt } = await client('GET', `/api/runs/${id}`);
      if (state === 'failed') throw new Error(problem.sentence);
      // Reading the files again comes after the run, and must not fall into the next one.
      if (state === 'done' && files.every(({ proof }) => proof)) return Date.parse(finishedAt) - asked;
      await new Promise((resolve) => setTimeout(resolve, POLL_MS));
    }
  };
  return {
    /** Time of a run of the first sheets, none of them made before, from the asking to its end by the server's clock. */
    publish: run,
    publishAfterOneChange: async (count, said) => {
      await client('PATCH', `${at}/sheets/${ids[0]}`, { title: 'Changed' });
      return run(count, said);
    },
  };
}

function peakMb(pid) {
  return Math.round(Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024);
}

function seconds(milliseconds) {
  return (milliseconds / 1000).toFixed(1);
}

function line(what, value, remark = '') {
  console.log(`${what.padEnd(44)}${value.padStart(12)}  ${remark}`);
}
