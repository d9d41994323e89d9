import { createSelector } from '@ngrx/store';
import { drawingsShown } from '@folvex/core';
import { selectAllSheets } from '../sheets/sheets.selectors';
import { drawingsAdapter, drawingsFeature, uploadsAdapter } from './drawings.reducer';

const ofDrawings = drawingsAdapter.getSelectors(drawingsFeature.selectDrawings);
const ofUploads = uploadsAdapter.getSelectors(drawingsFeature.selectUploads);

/** The drawings of the project; those that were removed are `selectRemovedDrawings`. */
export const selectAllDrawings = createSelector(ofDrawings.selectAll, (all) =>
  all.filter(({ removedAt }) => !removedAt),
);
export const selectRemovedDrawings = createSelector(ofDrawings.selectAll, (all) =>
  all.filter(({ removedAt }) => removedAt),
);
export const selectDrawingEntities = ofDrawings.selectEntities;
export const selectAllUploads = ofUploads.selectAll;
export const selectUploadEntities = ofUploads.selectEntities;

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
