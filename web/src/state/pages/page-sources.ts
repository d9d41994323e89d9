import { createSelector } from '@ngrx/store';
import { path, ROUTES, type DrawingInfo } from '@folvex/contract';
import { contextOf, factsOnSheets, pagePlaces, showsPageNumber, type Sheet, type SheetPackage } from '@folvex/core';
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

/** The sources of the last time. */
let lastSources: Readonly<Record<string, PageSource>> = {};

/** The source of a sheet: the same object while its version is the same, so that comparing thousands is quick. */
function sourceOf({ id }: Sheet, project: string, version: string): PageSource {
  const last = lastSources[id];
  return last?.version === version ? last : { url: path(ROUTES.sheetPage, { project, sheet: id }), version };
}

/** A sheet, and whether anything that it is composed from changed, apart from its place in a package. */
interface SheetState {
  sheet: Sheet;
  /** Changes with everything that the server composes it from. */
  version: string;
  showsPlace: boolean;
}

/** Kept apart from the places, so that reordering thousands of pages does not work them out again. */
const selectSheetStates = createSelector(
  selectAllSheets,
  selectAllDrawings,
  // The server composes with what it has: settings that are not saved yet do not show in pictures.
  projectFeature.selectSavedSettings,
  projectFeature.selectId,
  (sheets, drawings, settings, project): SheetState[] => {
    const facts = settings?.project;
    // Sheets of another project may have the same ids.
    const shared = numberOf(
      JSON.stringify([project, drawings.map(({ id, unit, hash }) => [id, unit, hash]), facts && factsOnSheets(facts)]),
    );
    return sheets.map((sheet) => {
      const { marks } = contextOf(facts ?? {}, sheet, sheets);
      const version = `${numberOfObject(sheet)} ${marks ? numberOf(JSON.stringify(marks)) : ''} ${shared}`;
      return { sheet, version, showsPlace: showsPageNumber(facts ?? {}, sheet) };
    });
  },
);

/**
 * What a sheet's picture is painted from. The version changes with everything that the server composes it from, so
 * that a picture is never older than its sheet.
 */
export const selectPageSources = createSelector(
  selectSheetStates,
  selectAllDrawings,
  selectAllPackages,
  projectFeature.selectId,
  (states, drawings, packages, project): Record<string, PageSource> => {
    const places = pagePlaces(packages);
    const sources: Record<string, PageSource> = Object.fromEntries(spaceSources(packages, drawings));
    for (const { sheet, version, showsPlace } of states) {
      const place = showsPlace ? places.get(sheet.id) : undefined;
      sources[sheet.id] = sourceOf(sheet, project, place ? `${version} ${place.page}/${place.pages}` : version);
    }
    lastSources = sources;
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
