import { createSelector } from '@ngrx/store';
import {
  compareNumbers,
  followOrder,
  resolvePackage,
  withMembers,
  type ExtraPage,
  type PageOptions,
  type PublishingFacts,
  type Sheet,
  type SheetPackage,
} from '@folvex/core';
import { selectAllDrawings } from '../drawings/drawings.selectors';
import { projectFeature } from '../project/project.reducer';
import { selectAllSheets } from '../sheets/sheets.selectors';
import { packagesAdapter, packagesFeature } from './packages.reducer';

const { selectFacts, selectGroups, selectRecipes } = projectFeature;
const { selectPackages, selectSaved, selectUnsaved, selectTrial: selectTrialId } = packagesFeature;

export const selectAllPackages = packagesAdapter.getSelectors(selectPackages).selectAll;

export const selectPackage = createSelector(
  selectAllPackages,
  packagesFeature.selectChosenPackage,
  (packages, chosen) => packages.find((pack) => pack.id === chosen) ?? packages[0] ?? null,
);

/** Packages whose edits the server does not have yet, and is to have. */
export const selectUnsavedPackages = createSelector(
  selectPackages,
  selectSaved,
  selectUnsaved,
  selectTrialId,
  ({ entities }, saved, unsaved, trial) =>
    unsaved.flatMap((id): EditedPackage[] => {
      const [ours, theirs] = [entities[id], saved[id]];
      return ours && theirs && id !== trial ? [{ ours, saved: theirs }] : [];
    }),
);

/** The package whose edits are for its next runs only, and as it is kept. */
export const selectTrial = createSelector(
  selectPackages,
  selectSaved,
  selectTrialId,
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

/** A package as it is shown, and as the server has it. */
export interface EditedPackage {
  ours: SheetPackage;
  saved: SheetPackage;
}

/** Each drawing by its id, as output plans take them. */
const selectLatest = createSelector(
  selectAllDrawings,
  (drawings) => new Map(drawings.map((drawing) => [drawing.id, { ...drawing, at: drawing.at.slice(0, 10) }])),
);

/** What publishing the chosen package on a day (YYYY-MM-DD) follows from; null without a package. */
export const selectPublishingFacts = (runDate: string) =>
  createSelector(
    selectPackage,
    selectAllSheets,
    selectGroups,
    selectFacts,
    selectLatest,
    selectRecipes,
    selectAllPackages,
    (pack, sheets, groups, project, latest, recipes, packages): PublishingFacts | null =>
      pack && project && { project, groups, sheets, recipes, packages, package: pack, latest, runDate },
  );
