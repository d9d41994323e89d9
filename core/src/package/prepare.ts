import { schedulesOf, type PenSchedule } from '../pens/schedule';
import { tileGrid, type Tiling } from '../paper/tiles';
import { paperOfChoice } from '../paper/sizes';
import type { PaperPlacement } from '../page/resize';
import type { Outcome } from '../problem';
import type { SheetContext } from '../sheet/context';
import type { ProjectFacts, Sheet } from '../sheet/model';
import type { ComposedFacts } from './composed-facts';
import { resolveDestinations } from './destination';
import type { Destination } from './destination-kinds';
import type { Finding } from './finding';
import { paperPlacement, type SheetPackage } from './model';
import { STANDARD_RECIPE, type Recipe } from '../recipe/recipe';
import { contextInPackage } from './page-context';
import { plotDrafts, type PlotDraft } from './plot-papers';
import { outputPlan, type OutputPlan, type PlanInput } from './plan';
import { recipeOfPage, resolvePackage } from './resolve';
import { runChecks } from './run-checks';

/** A project and a package of it, as they are when the package is published, or would be. */
export interface PublishingFacts extends Pick<PlanInput, 'project' | 'groups' | 'runDate' | 'latest' | 'packages'> {
  /** The sheets of the project. */
  sheets: readonly Sheet[];
  recipes: readonly Recipe[];
  package: SheetPackage;
  /** The number of the run; absent: it has not begun. */
  runId?: string;
}

/** What a package will write, worked out once for the screen, the server and the headless command alike. */
export interface PreparedRun {
  /** What the plan was made from: the package with its rules worked out, and the sheets that it adds. */
  input: PlanInput & { recipe: Recipe };
  plan: OutputPlan;
  /** Where it is delivered to, with its rules resolved. */
  destinations: readonly Outcome<Destination>[];
}

/**
 * What a package does not say: how its sheets came out, what is at its destinations already, what was issued before, and
 * whether this run gives its files passwords; absent: not known, and none.
 */
export type SeenFacts = Pick<PlanInput, 'pages' | 'there' | 'plotters' | 'issued' | 'isProtected'>;

/** The one planner: resolves the rules of a package and plans every file that a run of it writes. */
export function prepareRun({ recipes, package: asked, ...facts }: PublishingFacts): PreparedRun {
  const resolved = resolvePackage(asked, facts.sheets, facts.project);
  const recipe = recipes.find(({ id }) => id === asked.recipe) ?? STANDARD_RECIPE;
  const input = { ...facts, ...resolved, recipe, ...(recipe.protect && { isProtected: true }) };
  return { input, plan: outputPlan(input), destinations: resolveDestinations(input) };
}

/** Every finding of a prepared run, with what has been seen of its sheets and its destinations. */
export function checkRun(
  { input, plan }: Pick<PreparedRun, 'input' | 'plan'>,
  { pages, there, plotters, issued, isProtected }: SeenFacts,
): Finding[] {
  const seen = {
    ...(pages && { pages }),
    ...(there && { there }),
    ...(plotters && { plotters }),
    ...(issued && { issued }),
    // By this run, or by its recipe already.
    ...(isProtected && { isProtected }),
  };
  return runChecks({ ...input, ...seen }, plan);
}

/** What comes out of the plotters among the destinations of a prepared run, with the sheets that are composed. */
export function draftPlots(
  { input, plan }: Pick<PreparedRun, 'input' | 'plan'>,
  { pages, plotters }: SeenFacts,
): (PlotDraft | null)[] {
  return plotDrafts({ ...input, ...(pages && { pages }), ...(plotters && { plotters }) }, plan);
}

/** How many pages the PDFs of a prepared run will have; a sheet that takes its paper from a layout counts as one. */
export function plannedPages({ input, plan }: Pick<PreparedRun, 'input' | 'plan'>): number {
  const { package: pack, project } = input;
  const byId = new Map(input.sheets.map((sheet) => [sheet.id, sheet]));
  const pagesOf = (id: string): number => {
    const { tiling } = paperPlacement(pack, id, project);
    const chosen = byId.get(id)?.paper;
    const paper = chosen && paperOfChoice(chosen, project.papers);
    return (tiling && paper && tileGrid(paper, tiling)?.tiles.length) ?? 1;
  };
  return plan.files
    .filter(({ format }) => !format)
    .reduce((sum, { sheets }) => sum + sheets.reduce((all, id) => all + pagesOf(id), 0), 0);
}

/** The sheets of a prepared run in their order, each once. */
export function preparedSheets({ package: pack, sheets }: Pick<PlanInput, 'package' | 'sheets'>): Sheet[] {
  const byId = new Map(sheets.map((sheet) => [sheet.id, sheet]));
  return [...new Set(pack.order)].flatMap((id) => byId.get(id) ?? []);
}

/** Everything but drawings that one sheet of a run is made from. */
export interface SheetInputs {
  project: ProjectFacts;
  sheet: Sheet;
  context: SheetContext;
  recipe: Recipe;
  schedule?: PenSchedule;
  tiling?: Tiling;
  onto?: PaperPlacement;
}

/** What a sheet of a run is made from; `context` is what it shows of the sheets and the package around it. */
export function sheetInputs(
  { project, package: pack, recipe }: Pick<PreparedRun['input'], 'project' | 'package' | 'recipe'>,
  sheet: Sheet,
  context: SheetContext,
): SheetInputs {
  const own = recipeOfPage(recipe, pack, sheet.id);
  return { ...plainInputs(project, sheet, context, own), ...paperPlacement(pack, sheet.id, project) };
}

/** The same for a sheet by itself, outside any package. */
export function plainInputs(project: ProjectFacts, sheet: Sheet, context: SheetContext, recipe: Recipe): SheetInputs {
  const schedule = schedulesOf(project).find(({ id }) => id === recipe.pens);
  return { project: factsOnSheets(project), sheet, context, recipe, ...(schedule && { schedule }) };
}

/** The facts of a project that sheets are made from: a change of any other one must not cause them to be made again. */
export function factsOnSheets({
  penSchedules: _pens,
  namings: _namings,
  exchanges: _exchanges,
  ...relevant
}: ProjectFacts): ProjectFacts {
  return relevant;
}

/** The contexts of all sheets of a prepared run, by id. */
export function sheetContexts(input: PlanInput): Record<string, SheetContext> {
  return Object.fromEntries(preparedSheets(input).map((sheet) => [sheet.id, contextInPackage(sheet, input)]));
}

/** Facts of composed sheets, as checks take them. */
export type SeenPages = ReadonlyMap<string, ComposedFacts>;
