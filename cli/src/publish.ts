import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import {
  STANDARD_RECIPE,
  unpackPart,
  packPart,
  type Job,
  type OutputPlan,
  type PlannedFile,
  type Problem,
  type Recipe,
  type Sheet,
  type SheetPackage,
} from '@folvex/core';
import { assembleFile, pdfTools, sha256, WholeFile, type DrawingFile, type Press } from '@folvex/press';

/** What became of one file. */
export interface FileReport {
  path: string;
  pages: number;
  bytes: number;
  milliseconds: number;
  sha256: string;
  outcome: 'written' | 'unchanged' | 'failed' | 'refused';
  problems: Problem[];
}

export interface PublishInput {
  job: Job;
  package: SheetPackage;
  plan: OutputPlan;
  drawings: DrawingFile[];
  out: string;
  replace: boolean;
  press: Press;
  /** Called as each file is done. */
  done(report: FileReport): void;
  warn(problem: Problem): void;
}

type MadeSheets = Map<string, { packed: Uint8Array; hash: string } | Problem>;

/** Makes every file of a plan. A sheet that fails takes only its own file with it. */
export async function publish(input: PublishInput): Promise<FileReport[]> {
  const tools = await pdfTools();
  const reports: FileReport[] = [];
  for (const file of input.plan.files) {
    const start = performance.now();
    const made = await makeSheets(input, file);
    const problems = [...made.values()].filter((result): result is Problem => 'sentence' in result);
    const report = problems.length > 0 ? failed(file, problems) : writeFile(input, file, made, tools);
    report.milliseconds = Math.round(performance.now() - start);
    reports.push(report);
    input.done(report);
  }
  return reports;
}

async function makeSheets(input: PublishInput, file: PlannedFile): Promise<MadeSheets> {
  const { job, press, drawings } = input;
  const recipe = recipeOf(job, input.package);
  const made: MadeSheets = new Map();
  await Promise.all(
    file.sheets.map(async (id) => {
      const sheet = job.sheets.find((s) => s.id === id)!;
      const used = drawings.filter((drawing) => sheet.views.some((view) => view.drawing === drawing.id));
      const result = await press.makePart({ project: job.project, sheet, recipe, drawings: used });
      if (!result.ok) return made.set(id, result.problem);
      result.value.warnings.forEach((warning) => input.warn(warning));
      const packed = packPart(result.value.part);
      return made.set(id, { packed, hash: sha256(packed) });
    }),
  );
  return made;
}

function writeFile(
  input: PublishInput,
  file: PlannedFile,
  made: MadeSheets,
  tools: Awaited<ReturnType<typeof pdfTools>>,
): FileReport {
  const target = join(input.out, ...file.path.split('/'));
  const of = (id: string): { packed: Uint8Array; hash: string } => made.get(id) as { packed: Uint8Array; hash: string };
  const sheets: readonly Sheet[] = input.job.sheets;
  let whole: WholeFile | undefined;
  try {
    whole = new WholeFile(input.out);
    const { project } = input.job;
    const source = { partHash: (id: string) => of(id).hash, part: (id: string) => unpackPart(of(id).packed) };
    const bytes = assembleFile({ project, package: input.package, sheets, file, ...source }, tools, whole);
    const hash = whole.sync();
    const there = hashOf(target);
    const report = { path: file.path, pages: file.sheets.length, bytes, milliseconds: 0, sha256: hash, problems: [] };
    if (there === hash) {
      whole.discard();
      return { ...report, outcome: 'unchanged' };
    }
    if (there !== undefined && !input.replace) {
      whole.discard();
      const sentence = `${file.path} is there already and differs; choose another folder, or say --replace.`;
      return {
        ...report,
        outcome: 'refused',
        problems: [{ code: 'file.exists', sentence, place: { file: file.path } }],
      };
    }
    whole.moveTo(target);
    return { ...report, outcome: 'written' };
  } catch (error) {
    whole?.discard();
    const sentence = `${file.path} could not be written (${(error as Error).message}); see that the folder is there and has room.`;
    return failed(file, [{ code: 'file.write', sentence, place: { file: file.path } }]);
  }
}

function recipeOf(job: Job, pack: SheetPackage): Recipe {
  return job.recipes.find((recipe) => recipe.id === pack.recipe) ?? STANDARD_RECIPE;
}

function failed(file: PlannedFile, problems: Problem[]): FileReport {
  return {
    path: file.path,
    pages: file.sheets.length,
    bytes: 0,
    milliseconds: 0,
    sha256: '',
    outcome: 'failed',
    problems,
  };
}

/** Hash of a file that may not be there. */
function hashOf(path: string): string | undefined {
  try {
    return sha256(readFileSync(path));
  } catch {
    return undefined;
  }
}
