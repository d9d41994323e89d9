import { accessSync, constants, existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { basename, dirname, resolve } from 'node:path';
import { performance } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';
import {
  hasStop,
  LARGEST_DRAWING_BYTES,
  outputPlan,
  placeInWords,
  readJob,
  resolvePackage,
  runChecks,
  STANDARD_RECIPE,
  tooLargeSentence,
  type Finding,
  type Job,
  type JobDrawing,
  type OutputPlan,
  type PlanInput,
  type Problem,
  type SheetPackage,
} from '@folvex/core';
import { createPress, lockFor, sha256, type DrawingFile, type Lock } from '@folvex/press';
import { filesToInspect, readArguments, type PublishArguments } from './arguments';
import { inspectFile, type Inspected } from './inspect';
import { DONE, STOPPED, UNREADABLE } from './outcomes';
import { publish, type FileReport } from './publish';
import { composedFacts } from './sheet-task';
import { relinkArguments, relinkFolder } from './relink';

const THREAD = fileURLToPath(new URL('./press-thread.mjs', import.meta.url));

/** Runs the command; returns its exit code (0 all written, 1 stopped or failed, 2 the job file cannot be read). */
export async function main(args: readonly string[]): Promise<number> {
  const inspected = filesToInspect(args);
  if (inspected) return inspect(inspected);
  const relinking = relinkArguments(args);
  if (typeof relinking === 'string') {
    console.error(relinking);
    return UNREADABLE;
  }
  if (relinking) return relinkFolder(relinking);
  const options = readArguments(args, cpus().length);
  if (typeof options === 'string') {
    console.error(options);
    return UNREADABLE;
  }
  const read = readJobFile(options.jobFile);
  if (!read.ok) {
    tell(read.problems);
    return UNREADABLE;
  }
  const { job } = read;
  const asked = packageOf(job, options.package);
  if (typeof asked === 'string') {
    console.error(asked);
    return UNREADABLE;
  }
  const { package: pack, sheets } = resolvePackage(asked, job.sheets, job.project);
  const recipe = job.recipes.find(({ id }) => id === pack.recipe) ?? STANDARD_RECIPE;
  const input = { ...job, sheets, package: pack, runDate: today(), recipe };
  const plan = outputPlan(input);
  const findings = runChecks(input, plan);
  const told = tellFindings(findings);
  if (options.check) {
    printPlan(plan);
    tellReplaced(plan, options);
  }
  if (hasStop(findings)) return STOPPED;
  const found = findDrawings(job.drawings, dirname(resolve(options.jobFile)));
  tell(found.problems);
  if (found.problems.length > 0) return STOPPED;
  if (options.check) return look(input, plan, found.drawings, options.workers, told);
  return run(options, { ...job, sheets }, input, plan, found.drawings);
}

/** Composes every sheet and tells what checks find on them beyond what is told already. */
async function look(
  planned: PlanInput,
  plan: OutputPlan,
  drawings: DrawingFile[],
  workers: number,
  told: ReadonlySet<string>,
): Promise<number> {
  const press = createPress(THREAD, workers);
  try {
    const { pages, problems } = await composedFacts(planned, drawings, press);
    const findings = runChecks({ ...planned, pages }, plan);
    tell(problems);
    tellFindings(findings, told);
    return hasStop(findings) || problems.length > 0 ? STOPPED : DONE;
  } finally {
    await press.close();
  }
}

/** Tells findings but those that were told before; returns all of them as they are told. */
function tellFindings(findings: readonly Finding[], before: ReadonlySet<string> = new Set()): Set<string> {
  const lines = findings.map((finding) => `${finding.severity} ${finding.code}: ${worded(finding)}`);
  for (const line of lines) if (!before.has(line)) console.error(line);
  return new Set(lines);
}

/** Tells the files that are where a run would write its own. */
function tellReplaced(plan: OutputPlan, { out, replace }: PublishArguments): void {
  for (const { path } of plan.files) {
    if (!out || !existsSync(resolve(out, path))) continue;
    const what = replace
      ? 'is replaced where it differs'
      : 'stays where it differs, and the run fails; or say --replace';
    console.error(`warning file.there: ${path} is in ${out} already; it ${what}.`);
  }
}

/** What the package's recipe protects its files by; undefined: nothing. */
function lockOf({ recipes }: Job, { recipe }: SheetPackage): Lock | undefined {
  const { protect } = recipes.find(({ id }) => id === recipe) ?? {};
  if (!protect) return undefined;
  const { open = '', change = '', allow = ['print'] } = protect;
  const may = (what: (typeof allow)[number]): boolean => allow.includes(what);
  return lockFor({ open, change }, { print: may('print'), change: may('change'), copy: may('copy') });
}

/** Prints what is in files as one JSON array; 1 when one of them cannot be read. */
async function inspect(files: readonly string[]): Promise<number> {
  const found: Inspected[] = [];
  for (const file of files) found.push(await inspectFile(file));
  console.log(JSON.stringify(found, null, 2));
  return found.every(({ ok }) => ok) ? DONE : STOPPED;
}

async function run(
  options: PublishArguments,
  job: Job,
  planned: PlanInput,
  plan: OutputPlan,
  drawings: DrawingFile[],
): Promise<number> {
  const start = performance.now();
  const trouble = folderProblem(options.out);
  if (trouble) {
    tell([trouble]);
    return STOPPED;
  }
  const press = createPress(THREAD, options.workers);
  try {
    const out = resolve(options.out);
    const warned = new Set<string>();
    // Several sheets may show one drawing: what is wrong with it is told once.
    const warn = (problem: Problem): void => {
      const line = `warning ${problem.code}: ${worded(problem)}`;
      if (!warned.has(line)) console.error(line);
      warned.add(line);
    };
    const lock = lockOf(job, planned.package);
    const where = { out, replace: options.replace, ...(lock && { lock }) };
    const input = { job, planned, plan, drawings, ...where, press, done: printFile, warn };
    const files = await publish(input);
    const good = files.filter((file) => file.outcome === 'written' || file.outcome === 'unchanged');
    const sum = (of: (file: FileReport) => number): number => good.reduce((total, file) => total + of(file), 0);
    const milliseconds = Math.round(performance.now() - start);
    console.log(
      `${good.length} of ${files.length} files, ${sum((f) => f.pages)} pages, ${sum((f) => f.bytes)} bytes, ${milliseconds} ms`,
    );
    if (options.report)
      writeFileSync(
        options.report,
        `${JSON.stringify({ package: planned.package.id, files, milliseconds }, null, 2)}\n`,
      );
    return good.length === files.length ? DONE : STOPPED;
  } finally {
    await press.close();
  }
}

/** Why files cannot be written to a folder; it is made when it is not there. */
function folderProblem(folder: string): Problem | undefined {
  try {
    mkdirSync(resolve(folder), { recursive: true });
    accessSync(resolve(folder), constants.W_OK);
    return undefined;
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code ?? 'error';
    const sentence = `Nothing can be written to ${folder} (${code}); give the path of a folder that may be written to.`;
    return { code: 'out.folder', sentence, place: {} };
  }
}

function readJobFile(path: string): ReturnType<typeof readJob> {
  try {
    return readJob(readFileSync(path, 'utf8'));
  } catch (error) {
    const sentence = `${path} cannot be read (${(error as NodeJS.ErrnoException).code ?? 'error'}); give the path of a job file.`;
    return { ok: false, problems: [{ code: 'job.file', sentence, place: {} }] };
  }
}

function packageOf(job: Job, id: string): SheetPackage | string {
  const names = job.packages.map((pack) => pack.id).join(', ');
  if (!id && job.packages.length === 1) return job.packages[0]!;
  if (!id) return `Say with --package which of these to publish: ${names || 'none'}.`;
  return (
    job.packages.find((pack) => pack.id === id) ?? `There is no package "${id}"; the job file has ${names || 'none'}.`
  );
}

function findDrawings(
  drawings: readonly JobDrawing[],
  folder: string,
): { drawings: DrawingFile[]; problems: Problem[] } {
  const found: DrawingFile[] = [];
  const problems: Problem[] = [];
  for (const { id, file, unit } of drawings) {
    const path = resolve(folder, file);
    const place = { path: `drawings ${id}` };
    try {
      if (statSync(path).size > LARGEST_DRAWING_BYTES) {
        problems.push({ code: 'drawing.too-large', sentence: tooLargeSentence(file), place });
      } else found.push({ id, name: basename(file), path, hash: sha256(readFileSync(path)), unit });
    } catch {
      const sentence = `The drawing ${file} is not there; put it beside the job file or correct its path.`;
      problems.push({ code: 'drawing.missing', sentence, place });
    }
  }
  return { drawings: found, problems };
}

function printPlan(plan: OutputPlan): void {
  for (const file of plan.files) console.log(`${file.path}  ${file.sheets.length} pages`);
}

function printFile(file: FileReport): void {
  tell(file.problems);
  console.log(`${file.path}  ${file.pages} pages  ${file.bytes} bytes  ${file.milliseconds} ms  ${file.outcome}`);
}

function tell(problems: readonly Problem[]): void {
  for (const problem of problems) console.error(`stop ${problem.code}: ${worded(problem)}`);
}

function worded(problem: Problem): string {
  const place = placeInWords(problem.place);
  const times = problem.count && problem.count > 1 ? ` (${problem.count} times)` : '';
  return `${place ? `${place}: ` : ''}${problem.sentence}${times}`;
}

function today(): string {
  const now = new Date();
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
