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

/** How many sheets show each drawing, by itself or in one that refers to it, by its id. */
export const selectUses = createSelector(selectAllSheets, selectAllDrawings, (sheets, drawings) => {
  const byName = new Map(drawings.map((drawing) => [drawing.name.toLowerCase(), drawing]));
  const byId = new Map(drawings.map((drawing) => [drawing.id, drawing]));
  const uses: Record<string, number> = {};
  for (const sheet of sheets) {
    const shown = new Set(drawingsShown(sheet));
    // A set also visits what is added to it meanwhile: what is referred to may refer to others.
    for (const id of shown) {
      for (const name of byId.get(id)?.references ?? []) {
        const other = byName.get(name.toLowerCase());
        if (other) shown.add(other.id);
      }
    }
    for (const id of shown) uses[id] = (uses[id] ?? 0) + 1;
  }
  return uses;
});
