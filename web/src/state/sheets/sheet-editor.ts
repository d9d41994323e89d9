import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import type { SheetFields } from '@folvex/contract';
import { SheetActions } from '../sheets/sheets.actions';
import { sheetsFeature } from '../sheets/sheets.reducer';
import { selectEditedSheets, selectSheetEntities, selectUnsent } from '../sheets/sheets.selectors';

/** Changes sheets field by field, so that what somebody else changed meanwhile is not overwritten unseen. */
@Injectable({ providedIn: 'root' })
export class SheetEditor {
  private readonly store = inject(Store);
  private readonly saved = this.store.selectSignal(selectSheetEntities);
  private readonly edited = this.store.selectSignal(selectEditedSheets);
  private readonly drafts = this.store.selectSignal(sheetsFeature.selectDrafts);
  readonly unsent = this.store.selectSignal(selectUnsent);

  /** Changes fields of a sheet; what of it could not be sent before goes along. */
  change(sheetId: string, fields: Partial<SheetFields>): void {
    const draft = this.drafts()[sheetId];
    const kept = draft?.pending === 0 ? draft.fields : {};
    // Behind changes on their way a person sees what those make of the sheet; else what is saved.
    const seen = draft && draft.pending > 0 ? this.edited()[sheetId] : this.saved()[sheetId];
    if (!seen) return;
    const all = { ...kept, ...fields };
    const names = Object.keys(all) as (keyof SheetFields)[];
    const was = Object.fromEntries(names.map((name) => [name, seen[name] ?? null])) as Partial<SheetFields>;
    this.store.dispatch(SheetActions.sheetEdited({ sheetId, change: { ...all, was } }));
  }

  /** Sends again what could not be sent. */
  sendAgain(): void {
    for (const id of this.unsent()) this.change(id, {});
  }
}
