import { writeFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { performance } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';
import { checkRun, hasStop, prepareRun, type PreparedRun } from '@folvex/core';
import { createPress, folderDestination, limitsFrom, today } from '@folvex/press';
import { DONE, STOPPED, printProblems, WarningPrinter, UNREADABLE } from './console';
import { findDrawings, loadJobFile, lockOf, packageOf } from './job';
import { publishFiles, type FileReport, type PublishInput } from './publish-files';
import { composedFacts, type JobFiles } from './sheet-task';
import { findTypefaces } from './typefaces';
import { withWorkFolder } from './work-folder';

const THREAD = fileURLToPath(new URL('./press-thread.mjs', import.meta.url));

export interface PublishOptions {
  package?: string;
  out?: string;
  report?: string;
  workers: number;
  check: boolean;
  replace: boolean;
}

/** What is done once every file is written. */
export interface NextStep {
  /** Why it cannot be done, asked before anything is written; undefined: it can. */
  refusal(prepared: PreparedRun): string | undefined;
  /** Does it; resolves with the exit code. */
  run(prepared: PreparedRun, files: readonly FileReport[]): Promise<number>;
}

/** `folvex publish`; returns its exit code. */
export async function publish(
  jobFile: string,
  { next, ...options }: PublishOptions & { next?: NextStep },
): Promise<number> {
  if (!options.out && !options.check) return refuse('Use --out to name the folder for the files.');
  const read = loadJobFile(jobFile);
  if (!read.ok) {
    printProblems(read.problems);
    return UNREADABLE;
  }
  const { job } = read;
  const asked = packageOf(job, options.package);
  if (typeof asked === 'string') return refuse(asked);
  const prepared = prepareRun({ ...job, package: asked, runDate: today() });
  const refusal = next?.refusal(prepared);
  if (refusal !== undefined) return refuse(refusal);
  const teller = new WarningPrinter();
  const findings = checkRun(prepared, {});
  teller.findings(findings);
  if (options.check) await printPlan(prepared, options);
  if (hasStop(findings)) return STOPPED;
  const folder = dirname(resolve(jobFile));
  const { drawings, problems } = findDrawings(job.drawings, folder);
  const lettering = await findTypefaces(job.project.typefaces ?? [], folder);
  const missing = [...problems, ...lettering.problems];
  printProblems(missing);
  if (missing.length > 0) return STOPPED;
  const files = { drawings, typefaces: lettering.typefaces };
  if (options.check) return checkPages(prepared, files, options.workers, teller);
  const lock = lockOf(job, prepared.input.package);
  const input = { job, prepared, files, ...(lock && { lock }) };
  const written = await write(input, { ...options, out: options.out! }, teller);
  return written.code === DONE && next ? next.run(prepared, written.files) : written.code;
}

/** Composes every sheet and reports what checks find on them that is not reported yet. */
async function checkPages(
  prepared: PreparedRun,
  files: JobFiles,
  workers: number,
  teller: WarningPrinter,
): Promise<number> {
  const press = createPress(THREAD, workers, limitsFrom(process.env));
  try {
    const { pages, problems } = await composedFacts(prepared, files, press);
    const findings = checkRun(prepared, { pages });
    printProblems(problems);
    teller.findings(findings);
    return hasStop(findings) || problems.length > 0 ? STOPPED : DONE;
  } finally {
    await press.close();
  }
}

async function write(
  input: Pick<PublishInput, 'job' | 'prepared' | 'files' | 'lock'>,
  { out: folder, replace, report, workers }: PublishOptions & { out: string },
  teller: WarningPrinter,
): Promise<{ code: number; files: FileReport[] }> {
  const start = performance.now();
  const out = resolve(folder);
  const problem = await folderDestination(out).test();
  if (problem) {
    printProblems([problem]);
    return { code: STOPPED, files: [] };
  }
  const press = createPress(THREAD, workers, limitsFrom(process.env));
  try {
    let stopped = false;
    const files = await withWorkFolder(
      out,
      () => press.close(),
      (work, aborted) =>
        publishFiles({
          ...{ ...input, out, replace, press, work },
          // What fails because the command was stopped is not reported.
          done: (file) => void (aborted.aborted || printFile(file)),
          checked: (findings) => {
            teller.findings(findings);
            stopped = hasStop(findings);
          },
          warn: (warning) => teller.warn(warning),
        }),
    );
    if (stopped) return { code: STOPPED, files };
    const milliseconds = Math.round(performance.now() - start);
    return { code: summarise(files, milliseconds, input.prepared.input.package.id, report), files };
  } finally {
    await press.close();
  }
}

function summarise(files: FileReport[], milliseconds: number, pack: string, report: string | undefined): number {
  const good = files.filter(({ outcome }) => outcome === 'written' || outcome === 'unchanged');
  const sum = (of: (file: FileReport) => number): number => good.reduce((total, file) => total + of(file), 0);
  console.log(
    `${good.length} of ${files.length} files, ${sum(({ pages }) => pages)} pages, ${sum(({ bytes }) => bytes)} bytes, ${milliseconds} ms`,
  );
  if (report) writeFileSync(report, `${JSON.stringify({ package: pack, files, milliseconds }, null, 2)}\n`);
  return good.length === files.length ? DONE : STOPPED;
}

/** Prints the files of a plan, and reports those whose path a run would write to. */
async function printPlan({ plan }: PreparedRun, { out, replace }: PublishOptions): Promise<void> {
  for (const file of plan.files) console.log(`${file.path}  ${pagesInWords(file.sheets.length)}`);
  if (!out) return;
  const what = replace ? 'is replaced where it differs' : 'stays where it differs, and the run fails; or use --replace';
  for (const path of await folderDestination(resolve(out)).list(plan.files.map((file) => file.path))) {
    console.error(`warning file.there: ${path} is in ${out} already; it ${what}.`);
  }
}

function printFile(file: FileReport): void {
  printProblems(file.problems);
  console.log(
    `${file.path}  ${pagesInWords(file.pages)}  ${file.bytes} bytes  ${file.milliseconds} ms  ${file.outcome}`,
  );
}

function pagesInWords(count: number): string {
  return `${count} ${count === 1 ? 'page' : 'pages'}`;
}

function refuse(sentence: string): number {
  console.error(sentence);
  return UNREADABLE;
}
