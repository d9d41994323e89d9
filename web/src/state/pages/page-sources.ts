import { createSelector } from '@ngrx/store';
import { path, ROUTES, type DrawingInfo } from '@folvex/contract';
import { contextOf, factsOnSheets, pagePlaces, type Sheet, type SheetPackage } from '@folvex/core';
import type { PageSource } from '../../engine/engine';
import { selectAllDrawings } from '../drawings/drawings.selectors';
import { selectAllPackages } from '../packages/packages.selectors';
import { projectFeature } from '../project/project.reducer';
import { selectAllSheets } from '../sheets/sheets.selectors';

/** Texts by number: versions are kept and compared for thousands of pages, and long texts would fill the memory. */
const numbers = new Map<string, number>();
/** The number of the JSON of each object. */
const ofObjects = new WeakMap<object, number>();

function numberOf(text: string): number {
  const number = numbers.get(text) ?? numbers.size;
  numbers.set(text, number);
  return number;
}

/** The same for equal objects; worked out once for each, since they never change. */
function numberOfObject(object: object): number {
  const number = ofObjects.get(object) ?? numberOf(JSON.stringify(object));
  ofObjects.set(object, number);
  return number;
}

/** The source of each sheet, worked out last. */
const ofSheets = new WeakMap<Sheet, PageSource>();

/** The source of a sheet: the same object while its version is the same, so that comparing thousands is quick. */
function sourceOf(sheet: Sheet, project: string, version: string): PageSource {
  const last = ofSheets.get(sheet);
  if (last?.version === version) return last;
  const source = { url: last?.url ?? path(ROUTES.sheetPage, { project, sheet: sheet.id }), version };
  ofSheets.set(sheet, source);
  return source;
}

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
    const shared = numberOf(
      JSON.stringify([drawings.map(({ id, unit, hash }) => [id, unit, hash]), facts && factsOnSheets(facts)]),
    );
    const places = pagePlaces(packages);
    const around = (sheet: Sheet): string => {
      const { page, marks } = contextOf(facts ?? {}, sheet, sheets, places.get(sheet.id));
      return `${page ? `${page.page}/${page.pages}` : ''} ${marks ? numberOf(JSON.stringify(marks)) : ''}`;
    };
    const sources: Record<string, PageSource> = Object.fromEntries(spaceSources(packages, drawings));
    for (const sheet of sheets) {
      sources[sheet.id] = sourceOf(sheet, project, `${numberOfObject(sheet)} ${around(sheet)} ${shared}`);
    }
    return sources;
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
