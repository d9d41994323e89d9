import { ValidationError } from 'yup';
import type { Recipe } from '../recipe/recipe';
import type { PaperChoice } from '../paper/sizes';
import { schedulesOf, type PenSchedule } from '../pens/schedule';
import type { Problem } from '../problem';
import { CHOSEN_FONTS } from '../text/fonts';
import { hasTypeface } from '../text/own-typefaces';
import { parseLayoutName } from '../sheet/layout-name';
import type { Sheet } from '../sheet/model';
import type { JobFile } from './model';
import { jobFileSchema } from './schema';
import { JOB_FILE_VERSION, upgradeJobFile } from './upgrade';

export type JobFileResult = { ok: true; job: JobFile } | { ok: false; problems: Problem[] };

/** Reads a job file. Unknown keys, wrong values and ids that lead nowhere are refused, each with its path. */
export function readJobFile(json: string): JobFileResult {
  let value: unknown;
  try {
    value = JSON.parse(json.replace(/^\uFEFF/, ''));
  } catch (error) {
    const sentence = `The job file is not JSON (${(error as Error).message}); correct it there.`;
    return { ok: false, problems: [{ code: 'job.json', sentence, place: {} }] };
  }
  return jobFileFrom(value);
}

/** The same for a document that is already parsed. */
export function jobFileFrom(parsed: unknown): JobFileResult {
  if (typeof parsed !== 'object' || parsed === null || Array.isArray(parsed)) {
    const sentence = `A job file is one JSON object that begins with "folvex": ${JOB_FILE_VERSION}.`;
    return { ok: false, problems: [{ code: 'job.json', sentence, place: {} }] };
  }
  const value = upgradeJobFile(parsed as Record<string, unknown>);
  try {
    jobFileSchema.validateSync(value, { abortEarly: false });
  } catch (error) {
    if (error instanceof ValidationError) return { ok: false, problems: problemsOf(error) };
    throw error;
  }
  // Checked as it stands, without conversions; the cast only fills in what was left out.
  const job = completed(jobFileSchema.cast(value, { assert: false }));
  const problems = referenceProblems(job);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, job };
}

function completed(cast: unknown): JobFile {
  const { project, drawings, groups, recipes, sheets, packages, penSchedules } = cast as JobFile & {
    penSchedules?: PenSchedule[];
  };
  return {
    project: { ...project, ...(penSchedules && { penSchedules }) },
    drawings: drawings.map(({ id, file, unit, windows }) => ({ id, file, unit, ...(windows && { windows }) })),
    groups: groups.map(({ sheets: said, ...group }) => ({
      ...group,
      ...(said && { sheets: { ...said, ...(said.paper && { paper: completedPaper(said.paper) }) } }),
    })),
    recipes: recipes.map(completedRecipe),
    sheets: sheets.map(completedSheet),
    packages: packages.map(({ tiles, ...pack }) => ({
      ...pack,
      ...(tiles && { tiles: { ...tiles, paper: completedPaper(tiles.paper) } }),
    })),
  };
}

/** Text as text goes without saying. */
function completedRecipe({ text, ...recipe }: Omit<Recipe, 'text'> & { text?: Recipe['text'] | 'text' }): Recipe {
  return { ...recipe, ...(text && text !== 'text' && { text }) };
}

/** A sheet made from a layout has its number and title from the layout's name, unless they are given. */
function completedSheet(sheet: Sheet): Sheet {
  const paper = sheet.paper && completedPaper(sheet.paper);
  if (!sheet.from) return { ...sheet, paper };
  const named = parseLayoutName(sheet.from.layout);
  return { ...sheet, paper, number: sheet.number || named.number, title: sheet.title || named.title };
}

function completedPaper(paper: PaperChoice): PaperChoice {
  return 'name' in paper ? { name: paper.name, orientation: paper.orientation ?? 'landscape' } : paper;
}

function problemsOf(error: ValidationError): Problem[] {
  const inner = error.inner.length > 0 ? error.inner : [error];
  return inner.map((one) => {
    const path = one.path ?? '';
    if (one.type === 'noUnknown') {
      const unknown = String(one.params?.['unknown'] ?? '');
      const keys = unknown.split(', ').map((key) => (path ? `${path}.${key}` : key));
      const sentence = `${keys.join(', ')} is not known in a job file; correct or remove it.`;
      return { code: 'job.unknown-key', sentence, place: { path: keys[0]! } };
    }
    const sentence = `${one.message.replace(/^this/, 'the job file')}; correct it.`;
    return { code: 'job.value', sentence, place: { path } };
  });
}

function referenceProblems(job: JobFile): Problem[] {
  const problems: Problem[] = [];
  const refuse = (path: string, sentence: string): void => {
    problems.push({ code: 'job.reference', sentence, place: { path } });
  };
  for (const list of ['drawings', 'groups', 'recipes', 'sheets', 'packages'] as const) {
    const seen = new Set<string>();
    job[list].forEach(({ id }, i) => {
      if (seen.has(id)) refuse(`${list}[${i}].id`, `The id "${id}" is used twice in ${list}; give each its own.`);
      seen.add(id);
    });
  }
  const has = (list: readonly { id: string }[], id: string): boolean => list.some((item) => item.id === id);
  const { textStyles = [], titleBlocks = [] } = job.project;
  const refuseFont = (path: string, font = 'sans'): void => {
    if (hasTypeface(job.project, font)) return;
    const known = CHOSEN_FONTS.join(', ');
    refuse(path, `There is no typeface "${font}"; use one of ${known}, or add it to project.typefaces.`);
  };
  textStyles.forEach(({ font }, i) => refuseFont(`project.textStyles[${i}].font`, font));
  titleBlocks.forEach(({ cells }, i) =>
    cells.forEach(({ font }, k) => refuseFont(`project.titleBlocks[${i}].cells[${k}].font`, font)),
  );
  job.sheets.forEach((sheet, i) => {
    if (sheet.group && !has(job.groups, sheet.group)) {
      refuse(`sheets[${i}].group`, `There is no group "${sheet.group}"; add it to groups or correct it.`);
    }
    if (sheet.from && !has(job.drawings, sheet.from.drawing)) {
      const path = `sheets[${i}].from.drawing`;
      refuse(path, `There is no drawing "${sheet.from.drawing}"; add it to drawings or correct it.`);
    }
    sheet.views.forEach((view, k) => {
      if (!has(job.drawings, view.drawing)) {
        const path = `sheets[${i}].views[${k}].drawing`;
        refuse(path, `There is no drawing "${view.drawing}"; add it to drawings or correct it.`);
      }
    });
  });
  job.recipes.forEach(({ pens }, i) => {
    if (pens !== undefined && !has(schedulesOf(job.project), pens)) {
      refuse(`recipes[${i}].pens`, `There is no pen schedule "${pens}"; add it to penSchedules or correct it.`);
    }
  });
  job.packages.forEach((pack, i) => {
    if (pack.recipe && !has(job.recipes, pack.recipe)) {
      refuse(`packages[${i}].recipe`, `There is no recipe "${pack.recipe}"; add it to recipes or correct it.`);
    }
    pack.order.forEach((id, k) => {
      if (!has(job.sheets, id)) {
        refuse(`packages[${i}].order[${k}]`, `There is no sheet "${id}"; add it to sheets or correct it.`);
      }
    });
  });
  return problems;
}
