import { createSelector } from '@ngrx/store';
import { path, ROUTES, type DrawingInfo } from '@folvex/contract';
import type { PageSource } from '../engine/engine';
import {
  compareNumbers,
  contextOf,
  drawingsShown,
  followOrder,
  orderAround,
  outOfDate,
  prepareRun,
  resolvePackage,
  sameValue,
  withMembers,
  type ExtraPage,
  type OutputPlan,
  type PageOptions,
  type PreparedRun,
  type ProjectSettings,
  type Sheet,
  type SheetPackage,
  factsOnSheets,
} from '@folvex/core';
import {
  drawingsAdapter,
  packagesAdapter,
  projectFeature,
  runsAdapter,
  sheetsAdapter,
  uploadsAdapter,
} from './project.reducer';

const {
  selectDrawings,
  selectSheets,
  selectPackages,
  selectRuns,
  selectUploads,
  selectGroups,
  selectRecipes,
  selectFacts,
  selectChosenPackage,
  selectDrafts,
} = projectFeature;

export const selectAllDrawings = createSelector(selectDrawings, drawingsAdapter.getSelectors().selectAll);
export const selectDrawingEntities = createSelector(selectDrawings, drawingsAdapter.getSelectors().selectEntities);
export const selectUploadEntities = createSelector(selectUploads, uploadsAdapter.getSelectors().selectEntities);
export const selectAllSheets = createSelector(selectSheets, sheetsAdapter.getSelectors().selectAll);
export const selectSheetEntities = createSelector(selectSheets, sheetsAdapter.getSelectors().selectEntities);
/** Sheets with what was changed of them and is not saved yet. What they are painted from is the saved one. */
export const selectEditedSheets = createSelector(selectSheetEntities, selectDrafts, (entities, drafts) => {
  const edited = { ...entities };
  for (const [id, { fields }] of Object.entries(drafts)) {
    const sheet = entities[id];
    const plain = Object.fromEntries(Object.entries(fields).map(([name, value]) => [name, value ?? undefined]));
    if (sheet) edited[id] = { ...sheet, ...(plain as Partial<Sheet>) };
  }
  return edited;
});

/** Ids of sheets whose changes could not be sent. */
export const selectUnsent = createSelector(selectDrafts, (drafts) =>
  Object.keys(drafts).filter((id) => drafts[id]!.pending === 0),
);

export const selectAllPackages = createSelector(selectPackages, packagesAdapter.getSelectors().selectAll);
export const selectAllRuns = createSelector(selectRuns, runsAdapter.getSelectors().selectAll);
export const selectAllUploads = createSelector(selectUploads, uploadsAdapter.getSelectors().selectAll);

/** Sheets by group, groups in the project's order, sheets by number; those of no group last. */
export const selectSheetsByGroup = createSelector(selectAllSheets, selectGroups, (sheets, groups) => {
  const sorted = [...sheets].sort((a, b) => compareNumbers(a.number, b.number));
  const of = (id: string): Sheet[] => sorted.filter((sheet) => sheet.group === id);
  const known = new Set(groups.map((group) => group.id));
  const rest = sorted.filter((sheet) => !known.has(sheet.group));
  return [
    ...groups.map((group) => ({ id: group.id, name: group.name, sheets: of(group.id) })),
    ...(rest.length > 0 ? [{ id: '', name: 'No group', sheets: rest }] : []),
  ].filter((group) => group.sheets.length > 0);
});

export const selectPackage = createSelector(
  selectAllPackages,
  selectChosenPackage,
  (packages, chosen) => packages.find((pack) => pack.id === chosen) ?? packages[0] ?? null,
);

/** Packages whose edits the server does not have yet, and is to have. */
export const selectUnsavedPackages = createSelector(
  selectPackages,
  projectFeature.selectSaved,
  projectFeature.selectUnsaved,
  projectFeature.selectTrial,
  ({ entities }, saved, unsaved, trial) =>
    unsaved.flatMap((id): EditedPackage[] => {
      const [ours, theirs] = [entities[id], saved[id]];
      return ours && theirs && id !== trial ? [{ ours, saved: theirs }] : [];
    }),
);

/** The package whose edits are for its next runs only, and as it is kept. */
export const selectTrial = createSelector(
  selectPackages,
  projectFeature.selectSaved,
  projectFeature.selectTrial,
  ({ entities }, saved, trial): EditedPackage | null => {
    const [ours, theirs] = [entities[trial ?? ''], saved[trial ?? '']];
    return ours && theirs ? { ours, saved: theirs } : null;
  },
);

/** One page of a package, as its strip shows it. */
export interface StripPage {
  id: string;
  /** What is published there: a sheet of the project, or one that the package adds. */
  sheet: Sheet;
  extra?: ExtraPage;
  options: PageOptions;
  /** True where the rule of the package took it in. */
  byRule: boolean;
}

/** The pages of the chosen package in reading order, those left out this time among them. */
export const selectStripPages = createSelector(
  selectPackage,
  selectAllSheets,
  selectFacts,
  (pack, sheets, facts): StripPage[] => {
    if (!pack || !facts) return [];
    const placed = new Set(pack.order);
    const order = followOrder(withMembers(pack, sheets), pack.after ?? {});
    const made = resolvePackage({ ...pack, pages: {} }, sheets, facts).sheets;
    const byId = new Map(made.map((sheet) => [sheet.id, sheet]));
    return order.flatMap((id) => {
      const [sheet, extra] = [byId.get(id), pack.extras?.find((one) => one.id === id)];
      const options = pack.pages?.[id] ?? {};
      return sheet ? [{ id, sheet, options, byRule: !placed.has(id), ...(extra && { extra }) }] : [];
    });
  },
);

/** The sheets of the project in the chosen package, in reading order. */
export const selectPackageSheets = createSelector(selectStripPages, (pages) =>
  pages.filter(({ extra }) => !extra).map(({ sheet }) => sheet),
);

/** Sheets of the project that the chosen package does not hold, by number. */
export const selectSheetsOutside = createSelector(selectStripPages, selectAllSheets, (pages, sheets) => {
  const inside = new Set(pages.map(({ id }) => id));
  return sheets.filter((sheet) => !inside.has(sheet.id)).sort((a, b) => compareNumbers(a.number, b.number));
});

/** The settings as they are shown, and as the server has them; null before the project arrived. */
export const selectSettings = createSelector(
  selectFacts,
  selectGroups,
  selectRecipes,
  projectFeature.selectSavedSettings,
  (project, groups, recipes, saved): { ours: ProjectSettings | null; saved: ProjectSettings | null } => ({
    ours: project && { project, groups, recipes },
    saved,
  }),
);

/** True where settings were edited and could not be sent. */
export const selectSettingsUnsent = createSelector(
  selectSettings,
  projectFeature.selectEditing,
  ({ ours, saved }, editing) => editing === 0 && !sameValue(ours, saved),
);

/** A package as it is shown, and as the server has it. */
export interface EditedPackage {
  ours: SheetPackage;
  saved: SheetPackage;
}

const EMPTY_PLAN: OutputPlan = { files: [], problems: [] };

/** What a run would write, and what that follows from; without a package there is no input. */
export type Output = PreparedRun | { input: null; plan: OutputPlan; destination?: undefined };

/** What publishing the chosen package today would write. */
export const selectOutput = (runDate: string) =>
  createSelector(
    selectPackage,
    selectAllSheets,
    selectGroups,
    selectFacts,
    selectAllDrawings,
    selectRecipes,
    selectAllPackages,
    (pack, sheets, groups, project, drawings, recipes, packages): Output => {
      if (!pack || !project) return { plan: EMPTY_PLAN, input: null };
      const latest = new Map(drawings.map((drawing) => [drawing.id, { ...drawing, at: drawing.at.slice(0, 10) }]));
      return prepareRun({ project, groups, sheets, recipes, packages, package: pack, latest, runDate });
    },
  );

/** Ids of sheets that show something held behind its drawing. */
export const selectOutOfDate = createSelector(
  selectAllSheets,
  selectDrawingEntities,
  (sheets, drawings) =>
    new Set(sheets.filter((sheet) => outOfDate(sheet, (id) => drawings[id]?.version).length > 0).map(({ id }) => id)),
);

/** The latest run of the chosen package. */
export const selectLatestRun = createSelector(
  selectAllRuns,
  selectPackage,
  (runs, pack) => runs.find((run) => run.packageId === pack?.id) ?? null,
);

/** The run that is waiting or running, if any; the latest of several. */
export const selectOpenRun = createSelector(
  selectAllRuns,
  (runs) => runs.find((run) => run.state === 'waiting' || run.state === 'running') ?? null,
);

/** Names of the layouts already taken over as sheets, by drawing. */
export const selectLayoutsTaken = createSelector(selectAllSheets, (sheets) => {
  const taken: Record<string, string[]> = {};
  for (const { from } of sheets) if (from) (taken[from.drawing] ??= []).push(from.layout);
  return taken;
});

/** How many sheets show each drawing, by its id. */
export const selectUses = createSelector(selectAllSheets, (sheets) => {
  const uses: Record<string, number> = {};
  for (const sheet of sheets) {
    for (const id of drawingsShown(sheet)) uses[id] = (uses[id] ?? 0) + 1;
  }
  return uses;
});

/**
 * What a sheet's picture is painted from. The version changes with everything that the server composes it from, so
 * that a picture is never older than its sheet.
 */
export const selectPageSources = createSelector(
  selectAllSheets,
  selectAllDrawings,
  selectAllPackages,
  // The server composes with what it has: settings that are not saved yet do not show in pictures.
  projectFeature.selectSavedSettings,
  projectFeature.selectId,
  (sheets, drawings, packages, settings, project): Record<string, PageSource> => {
    const facts = settings?.project;
    const units = drawings.map(({ id, unit, hash }) => `${id} ${unit} ${hash}`).join();
    const settingsVersion = JSON.stringify(facts && factsOnSheets(facts));
    const around = (sheet: Sheet): string =>
      JSON.stringify(contextOf(facts ?? {}, sheet, sheets, orderAround(sheet, packages)));
    return Object.fromEntries([
      ...spaceSources(packages, drawings),
      ...sheets.map((sheet): [string, PageSource] => [
        sheet.id,
        {
          url: path(ROUTES.sheetPage, { project, sheet: sheet.id }),
          version: `${JSON.stringify(sheet)}${around(sheet)}${units}${settingsVersion}`,
        },
      ]),
    ]);
  },
);

/** What the pages are painted from that are spaces of drawings, as they are looked at by themselves. */
function spaceSources(packages: readonly SheetPackage[], drawings: readonly DrawingInfo[]): [string, PageSource][] {
  const byId = new Map(drawings.map((drawing) => [drawing.id, drawing]));
  return packages.flatMap(({ extras = [] }) =>
    extras.flatMap(({ id, kind, drawing = '', space }): [string, PageSource][] => {
      const found = byId.get(drawing);
      if (kind !== 'space' || !found) return [];
      const at = space === 'model' ? 0 : found.layouts.findIndex(({ name }) => name === space) + 1;
      return [[id, { url: path(ROUTES.spacePage, { drawing, space: at }), version: `${found.hash} ${at}` }]];
    }),
  );
}
