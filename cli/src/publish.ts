import { mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import {
  besideOf,
  STANDARD_RECIPE,
  type Job,
  type Outcome,
  type OutputPlan,
  type PlanInput,
  type PlannedFile,
  type Problem,
  type Recipe,
} from '@folvex/core';
import { sha256, type DrawingFile, type Lock, type MadeBeside, type MadePart, type Press } from '@folvex/press';
import { taskOf } from './sheet-task';

/** What became of one file. */
export interface FileReport {
  path: string;
  pages: number;
  bytes: number;
  /** Time spent on its sheets and on putting it together. */
  milliseconds: number;
  sha256: string;
  outcome: 'written' | 'unchanged' | 'failed' | 'refused';
  problems: Problem[];
}

export interface PublishInput {
  job: Job;
  /** What the plan was made from: the package with its rules worked out. */
  planned: PlanInput;
  plan: OutputPlan;
  drawings: DrawingFile[];
  out: string;
  replace: boolean;
  /** What the files are protected by; absent: nothing. */
  lock?: Lock;
  press: Press;
  /** Called as each file is done, in the order of the plan. */
  done(report: FileReport): void;
  warn(problem: Problem): void;
}

/**
 * Makes every file of a plan. Sheets are made side by side and wait on the disk for their file; a sheet that fails
 * takes only its own file with it.
 */
export async function publish(input: PublishInput): Promise<FileReport[]> {
  mkdirSync(input.out, { recursive: true });
  const work = mkdtempSync(join(input.out, '.folvex-'));
  try {
    const parts = makeParts(input, work);
    const beside = makeBeside(input, work);
    const files = input.plan.files.map((file) =>
      file.format ? placeBeside(input, file, beside) : makeFile(input, work, file, parts),
    );
    const reports: FileReport[] = [];
    for (const file of files) {
      const report = await file;
      reports.push(report);
      input.done(report);
    }
    return reports;
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

function recipeOf({ planned }: PublishInput): Recipe {
  return planned.recipe ?? STANDARD_RECIPE;
}

/** The sheets that links may lead to. */
function inPackage({ job, planned: { package: pack } }: PublishInput): { id: string; number: string }[] {
  return job.sheets.filter(({ id }) => pack.order.includes(id)).map(({ id, number }) => ({ id, number }));
}

type Parts = ReadonlyMap<string, Promise<Outcome<MadePart>>>;

/** Asks for every sheet of the plan, once. */
function makeParts({ planned, plan, drawings, press, warn }: PublishInput, folder: string): Parts {
  const wanted = new Set(plan.files.flatMap((file) => file.sheets));
  const make = async (id: string): Promise<Outcome<MadePart>> => {
    const made = await press.makePart({ ...taskOf(planned, id, drawings), folder });
    if (made.ok) made.value.warnings.forEach(warn);
    return made;
  };
  return new Map([...wanted].map((id) => [id, make(id)]));
}

type Beside = ReadonlyMap<string, Promise<Outcome<MadeBeside>>>;

/** Asks for what is written beside PDF, a sheet at a time. */
function makeBeside({ planned, plan, drawings, press }: PublishInput, folder: string): Beside {
  const { beside } = planned.package;
  const wanted = new Set(plan.files.flatMap((file) => (file.format ? file.sheets : [])));
  const make = (id: string): Promise<Outcome<MadeBeside>> => {
    const formats = besideOf(planned.package, id);
    const dpi = beside?.dpi;
    return press.makeBeside({ ...taskOf(planned, id, drawings), formats, folder, ...(dpi !== undefined && { dpi }) });
  };
  return new Map([...wanted].map((id) => [id, make(id)]));
}

async function placeBeside(input: PublishInput, file: PlannedFile, beside: Beside): Promise<FileReport> {
  const report: FileReport = { ...nothingOf(file), pages: 1 };
  const made = await beside.get(file.sheets[0]!)!;
  if (!made.ok) return { ...report, problems: [made.problem] };
  const found = made.value.files.find(({ format }) => format === file.format)!;
  const facts = { bytes: found.bytes, sha256: found.hash, milliseconds: Math.round(made.value.milliseconds) };
  return orUnwritten(report, () => ({ ...report, ...facts, ...place(input, file.path, found) }));
}

function nothingOf({ path, sheets }: PlannedFile): FileReport {
  return { path, pages: sheets.length, bytes: 0, milliseconds: 0, sha256: '', outcome: 'failed', problems: [] };
}

/** What writing a file comes to, or why it could not be written. */
async function orUnwritten(report: FileReport, write: () => FileReport | Promise<FileReport>): Promise<FileReport> {
  try {
    return await write();
  } catch (error) {
    const sentence = `${report.path} could not be written (${(error as Error).message}); see that the folder is there and has room.`;
    return { ...report, problems: [{ code: 'file.write', sentence, place: { file: report.path } }] };
  }
}

async function makeFile(input: PublishInput, work: string, file: PlannedFile, parts: Parts): Promise<FileReport> {
  const report = nothingOf(file);
  const made = await Promise.all(file.sheets.map(async (id) => [id, await parts.get(id)!] as const));
  const problems = made.flatMap(([, part]) => (part.ok ? [] : [part.problem]));
  if (problems.length > 0) return { ...report, problems };
  const making = made.reduce((sum, [, part]) => sum + (part.ok ? part.value.milliseconds : 0), 0);
  return orUnwritten(report, async () => {
    const assembled = await input.press.assemble({
      project: input.job.project,
      package: input.planned.package,
      sheets: input.job.sheets.filter(({ id }) => file.sheets.includes(id)),
      plan: { files: input.plan.files, sheets: inPackage(input) },
      groups: input.job.groups,
      recipe: recipeOf(input),
      ...(input.lock && { lock: input.lock }),
      file,
      parts: Object.fromEntries(
        made.flatMap(([id, part]) =>
          part.ok ? [[id, { path: part.value.temporary, hash: part.value.hash }] as const] : [],
        ),
      ),
      folder: work,
    });
    const placed = place(input, file.path, assembled);
    const { bytes, pages, hash } = assembled;
    return {
      ...report,
      pages,
      bytes,
      sha256: hash,
      ...placed,
      milliseconds: Math.round(making + assembled.milliseconds),
    };
  });
}

/** Gives a finished file its place, unless another one stands there. */
function place(
  { out, replace }: PublishInput,
  path: string,
  { temporary, hash }: { temporary: string; hash: string },
): Pick<FileReport, 'outcome' | 'problems'> {
  const target = join(out, ...path.split('/'));
  const there = hashOf(target);
  if (there === hash) return { outcome: 'unchanged', problems: [] };
  if (there !== undefined && !replace) {
    const sentence = `${path} is there already and differs; choose another folder, or say --replace.`;
    return { outcome: 'refused', problems: [{ code: 'file.exists', sentence, place: { file: path } }] };
  }
  mkdirSync(dirname(target), { recursive: true });
  renameSync(temporary, target);
  return { outcome: 'written', problems: [] };
}

/** Hash of a file that may not be there. */
function hashOf(path: string): string | undefined {
  try {
    return sha256(readFileSync(path));
  } catch {
    return undefined;
  }
}
