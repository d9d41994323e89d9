import { createSelector } from '@ngrx/store';
import { path, ROUTES, type DrawingInfo } from '@folvex/contract';
import { contextOf, factsOnSheets, orderAround, type Sheet, type SheetPackage } from '@folvex/core';
import type { PageSource } from '../../engine/engine';
import { selectAllDrawings } from '../drawings/drawings.selectors';
import { selectAllPackages } from '../packages/packages.selectors';
import { projectFeature } from '../project/project.reducer';
import { selectAllSheets } from '../sheets/sheets.selectors';

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
