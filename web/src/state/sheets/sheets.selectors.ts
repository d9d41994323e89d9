import { createSelector } from '@ngrx/store';
import { compareNumbers, MM_PER_UNIT, outOfDate, type Sheet } from '@folvex/core';
import { drawingsAdapter, drawingsFeature } from '../drawings/drawings.reducer';
import { unitOf } from '../drawings/unit-of';
import { projectFeature } from '../project/project.reducer';
import { sheetsAdapter, sheetsFeature } from './sheets.reducer';

const ofSheets = sheetsAdapter.getSelectors(sheetsFeature.selectSheets);

export const selectAllSheets = ofSheets.selectAll;
export const selectSheetEntities = ofSheets.selectEntities;

/** Sheets with what was changed of them and is not saved yet. What they are painted from is the saved one. */
export const selectEditedSheets = createSelector(
  selectSheetEntities,
  sheetsFeature.selectDrafts,
  (entities, drafts) => {
    const edited = { ...entities };
    for (const [id, { fields }] of Object.entries(drafts)) {
      const sheet = entities[id];
      const plain = Object.fromEntries(Object.entries(fields).map(([name, value]) => [name, value ?? undefined]));
      if (sheet) edited[id] = { ...sheet, ...(plain as Partial<Sheet>) };
    }
    return edited;
  },
);

/** Ids of sheets whose changes could not be sent. */
export const selectUnsent = createSelector(sheetsFeature.selectDrafts, (drafts) =>
  Object.keys(drafts).filter((id) => drafts[id]!.pending === 0),
);

/** Sheets by group, groups in the project's order, sheets by number; those of no group last. */
export const selectSheetsByGroup = createSelector(selectAllSheets, projectFeature.selectGroups, (sheets, groups) => {
  const sorted = [...sheets].sort((a, b) => compareNumbers(a.number, b.number));
  const byGroup = new Map<string, Sheet[]>();
  for (const sheet of sorted) {
    const group = byGroup.get(sheet.group);
    if (group) group.push(sheet);
    else byGroup.set(sheet.group, [sheet]);
  }
  const known = new Set(groups.map((group) => group.id));
  const rest = sorted.filter((sheet) => !known.has(sheet.group));
  return [
    ...groups.map(({ id, name }) => ({ id, name, sheets: byGroup.get(id) ?? [] })),
    ...(rest.length > 0 ? [{ id: '', name: 'No group', sheets: rest }] : []),
  ].filter((group) => group.sheets.length > 0);
});

/** Ids of sheets that show something held behind its drawing. */
export const selectOutOfDate = createSelector(
  selectAllSheets,
  drawingsAdapter.getSelectors(drawingsFeature.selectDrawings).selectEntities,
  (sheets, drawings) =>
    new Set(sheets.filter((sheet) => outOfDate(sheet, (id) => drawings[id]?.version).length > 0).map(({ id }) => id)),
);

/**
 * By id, the scales of each sheet that takes over a layout in its latest version: those of its viewports. Others are
 * missing, and where the drawing's unit is not known.
 */
export const selectLaidOutScales = createSelector(
  selectAllSheets,
  drawingsFeature.selectDrawings,
  (sheets, { entities }): Readonly<Record<string, readonly { scale: number }[]>> =>
    Object.fromEntries(
      sheets.flatMap(({ id, from }) => {
        if (!from || from.held !== undefined) return [];
        const drawing = entities[from.drawing];
        const unit = drawing && unitOf(drawing);
        const viewports = drawing?.layouts.find(({ name }) => name === from.layout)?.viewports;
        return unit && viewports ? [[id, viewports.map((mm) => ({ scale: mm / MM_PER_UNIT[unit] }))]] : [];
      }),
    ),
);
