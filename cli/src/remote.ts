import { createWriteStream, existsSync, mkdirSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import { isRunSettled, type DeliveryInfo, type RunInfo } from '@folvex/contract';
import { hasArrived, legalPath } from '@folvex/core';
import { DONE, printProblems, STOPPED, UNREADABLE } from './console';
import { RemoteProject, ServerProblem, type ServerOptions } from './remote-project';

/** How often a run is looked at until it is settled, ms. */
const POLL_MS = 500;

/** `folvex push`; returns its exit code. */
export async function pushFiles(files: readonly string[], options: ServerOptions): Promise<number> {
  return printingProblems(async () => {
    const missing = files.filter((file) => !existsSync(file));
    for (const file of missing)
      printProblems([{ code: 'drawing.missing', sentence: 'There is no such file.', place: { file } }]);
    if (missing.length > 0) return UNREADABLE;
    const project = await RemoteProject.open(options);
    let code: number = DONE;
    for (const file of files) {
      try {
        console.log(`${file}  ${await project.push(file)}`);
      } catch (error) {
        if (!(error instanceof ServerProblem)) throw error;
        printProblems([error.problem]);
        code = STOPPED;
      }
    }
    return code;
  });
}

/** `folvex run`: publishes a package on a server and waits for it and its deliveries; returns its exit code. */
export async function runRemote(pack: string, options: ServerOptions & { out?: string }): Promise<number> {
  return printingProblems(async () => {
    const project = await RemoteProject.open(options);
    const { id } = await project.start(pack);
    let run: RunInfo;
    for (;;) {
      run = await project.run(id);
      if (isRunSettled(run, Date.now())) break;
      await new Promise((next) => setTimeout(next, POLL_MS));
    }
    for (const [index, { path, pages, bytes, sha256 }] of run.files.entries()) {
      if (options.out) await download(await project.file(id, index), options.out, path);
      console.log(`${path}  ${pages} ${pages === 1 ? 'page' : 'pages'}  ${bytes} bytes  ${sha256}`);
    }
    const failed = run.sheets.filter(({ state }) => state === 'failed');
    for (const { number, problem } of failed) {
      const { code = 'unknown', sentence = 'This sheet failed.' } = problem ?? {};
      printProblems([{ code, sentence, place: { sheet: number } }]);
    }
    if (run.problem) printProblems([run.problem]);
    for (const delivery of run.deliveries) printDelivery(delivery, run.files.length);
    console.log(`${run.state}, ${run.files.length} ${run.files.length === 1 ? 'file' : 'files'}`);
    const arrived = run.deliveries.every(({ state }) => state === 'done');
    return run.state === 'done' && failed.length === 0 && arrived ? DONE : STOPPED;
  });
}

/** Prints where a run was sent, how much of it arrived, and what went wrong. */
function printDelivery({ location, state, problem, receipts }: DeliveryInfo, files: number): void {
  const outcomes = receipts.map(({ outcome }) => outcome);
  const arrived = outcomes.filter(hasArrived).length;
  console.log(`${location ?? 'destination'}  ${state}, ${arrived} of ${files} ${files === 1 ? 'file' : 'files'}`);
  const problems = outcomes.flatMap((outcome) => ('problem' in outcome ? [outcome.problem] : []));
  printProblems([...(problem && state !== 'done' ? [problem] : []), ...problems]);
}

async function download({ body }: Response, folder: string, path: string): Promise<void> {
  // Whatever a server says, nothing is written outside the folder.
  if (legalPath(path) !== path)
    throw new ServerProblem({ code: 'unknown', sentence: `${path} is no name for a file here.`, place: {} });
  const file = join(resolve(folder), path);
  mkdirSync(dirname(file), { recursive: true });
  await pipeline(Readable.fromWeb(body as ReadableStream), createWriteStream(file));
}

/** Prints what a server refuses. */
async function printingProblems(work: () => Promise<number>): Promise<number> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof ServerProblem)) throw error;
    printProblems([error.problem]);
    return error.problem.code === 'offline' ? UNREADABLE : STOPPED;
  }
}
