import { createEntityAdapter, type EntityState } from '@ngrx/entity';
import { createFeature, createReducer, on } from '@ngrx/store';
import type { SheetChange, SheetFields } from '@folvex/contract';
import type { Sheet } from '@folvex/core';
import { omitKey } from '../omit-key';
import { EditActions } from '../edits/edits.actions';
import { ProjectActions } from '../project/project.actions';
import { SheetActions } from './sheets.actions';

/** What was changed of a sheet; `pending` changes are on their way, with none it is kept to be sent again. */
export interface Draft {
  fields: Partial<SheetFields>;
  pending: number;
}

export const sheetsAdapter = createEntityAdapter<Sheet>();

export interface SheetsState {
  sheets: EntityState<Sheet>;
  /** Changes of sheets that the server does not have yet, by sheet. */
  drafts: Record<string, Draft>;
}

const initial: SheetsState = { sheets: sheetsAdapter.getInitialState(), drafts: {} };

/** The sheets of the project, and what was changed of them and is not saved yet. */
export const sheetsFeature = createFeature({
  name: 'sheets',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(ProjectActions.projectArrived, EditActions.sheetsShownAnew, (state, { info }) => ({
      ...state,
      sheets: sheetsAdapter.setAll(info.sheets, state.sheets),
    })),
    on(SheetActions.sheetsCreated, (state, { sheets }) => ({
      ...state,
      sheets: sheetsAdapter.addMany(sheets, state.sheets),
    })),
    on(SheetActions.sheetsRemoved, (state, { ids }) => ({
      ...state,
      sheets: sheetsAdapter.removeMany(ids, state.sheets),
    })),
    on(SheetActions.sheetEdited, (state, { sheetId, change }) => ({
      ...state,
      drafts: { ...state.drafts, [sheetId]: draftWith(state.drafts[sheetId], change) },
    })),
    on(SheetActions.sheetSaved, (state, { sheet }) => ({
      sheets: sheetsAdapter.setOne(sheet, state.sheets),
      drafts: draftsAfter(state.drafts, sheet.id),
    })),
    on(SheetActions.sheetEditRefused, (state, { sheetId, kept }) => ({
      ...state,
      drafts: kept ? draftsKept(state.drafts, sheetId) : omitKey(state.drafts, sheetId),
    })),
    on(SheetActions.severalSaved, (state, { sheets }) => ({
      ...state,
      sheets: sheetsAdapter.setMany(sheets, state.sheets),
    })),
    on(EditActions.stepped, (state, { step: { sheets, removed } }) => ({
      ...state,
      sheets: sheetsAdapter.setMany(sheets, sheetsAdapter.removeMany(removed, state.sheets)),
    })),
  ),
});

function draftWith(draft: Draft | undefined, { was: _, hold: __, ...fields }: SheetChange): Draft {
  return { fields: { ...draft?.fields, ...fields }, pending: (draft?.pending ?? 0) + 1 };
}

/** One change of a sheet was saved: once none is on its way, the sheet itself is up to date. */
function draftsAfter(drafts: SheetsState['drafts'], id: string): SheetsState['drafts'] {
  const draft = drafts[id];
  if (!draft || draft.pending <= 1) return omitKey(drafts, id);
  return { ...drafts, [id]: { ...draft, pending: draft.pending - 1 } };
}

/** One change of a sheet could not be sent: what was typed stays. */
function draftsKept(drafts: SheetsState['drafts'], id: string): SheetsState['drafts'] {
  const draft = drafts[id];
  return draft ? { ...drafts, [id]: { ...draft, pending: Math.max(0, draft.pending - 1) } } : drafts;
}
