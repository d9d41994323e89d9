import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import type { EditAnswer } from '@folvex/contract';
import { firstInWords, type Sheet } from '@folvex/core';
import { catchError, EMPTY, exhaustMap, mergeMap, of, type Observable } from 'rxjs';
import { Api } from '../api';
import { DrawingActions } from '../drawings/drawings.actions';
import { EditQueue } from '../edits/edit-queue';
import { projectFeature } from '../project/project.reducer';
import { EditActions } from '../edits/edits.actions';
import { NoticeActions } from '../notices/notices.actions';
import { refused } from '../notices/refused';
import { PackageActions } from '../packages/packages.actions';
import { selectAllPackages } from '../packages/packages.selectors';
import { SheetActions } from './sheets.actions';
import { selectAllSheets } from './sheets.selectors';

/** Sheets are created one by one, from the layouts of a drawing, or from its frames. */
export const createSheets = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), queue = inject(EditQueue)) =>
    actions.pipe(
      ofType(SheetActions.sheetAskedFor, DrawingActions.layoutSheetsAskedFor, DrawingActions.frameSheetsAskedFor),
      concatLatestFrom(() => [store.select(projectFeature.selectId), store.select(selectAllSheets)]),
      exhaustMap(([wanted, project, others]) =>
        queue.run(() =>
          request(wanted, api, project).pipe(
            mergeMap(({ sheets, history }): Action[] => [
              SheetActions.sheetsCreated({ sheets }),
              EditActions.historyArrived({ history }),
              createdNotice(sheets, others),
            ]),
            catchError(refused),
          ),
        ),
      ),
    ),
  { functional: true },
);

/** Says what was created, and which of their numbers others have already: layouts bring their own. */
function createdNotice(sheets: readonly Sheet[], others: readonly Sheet[]): Action {
  const [only] = sheets;
  const what = only && sheets.length === 1 ? `${only.number} ${only.title}`.trim() : `${sheets.length} sheets`;
  const numbers = new Set(others.map(({ number }) => number.toLowerCase()));
  const taken = sheets.map(({ number }) => number).filter((number) => number && numbers.has(number.toLowerCase()));
  const clash = taken.length > 0 ? ` Other sheets have the same numbers: ${firstInWords(taken)}.` : '';
  const sentence = `${what} created.${clash}`;
  const action = { words: 'Undo', dispatch: EditActions.stepAskedFor({ way: 'undo' }) };
  return NoticeActions.noticeShown({ notice: { sentence, failed: false, action } });
}

type Wanted = ReturnType<
  | typeof SheetActions.sheetAskedFor
  | typeof DrawingActions.layoutSheetsAskedFor
  | typeof DrawingActions.frameSheetsAskedFor
>;

function request(wanted: Wanted, api: Api, project: string): Observable<EditAnswer> {
  switch (wanted.type) {
    case SheetActions.sheetAskedFor.type:
      return api.createSheet(project, wanted.sheet);
    case DrawingActions.layoutSheetsAskedFor.type:
      return api.createLayoutSheets(project, wanted.drawingId);
    case DrawingActions.frameSheetsAskedFor.type:
      return api.createFrameSheets(project, wanted.drawingId, wanted.wanted);
  }
}

/** Sheets chosen on the wall go to the end of a package; those it holds already stay where they are. */
export const addToPackage = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(SheetActions.sheetsPutInPackage),
      concatLatestFrom(() => store.select(selectAllPackages)),
      mergeMap(([{ packageId, sheetIds }, packages]) => {
        const pack = packages.find(({ id }) => id === packageId);
        if (!pack) return EMPTY;
        const held = new Set(pack.order);
        const order = [...pack.order, ...sheetIds.filter((id) => !held.has(id))];
        return of(
          PackageActions.packageEdited({ packageId, change: { order } }),
          PackageActions.packageChosen({ packageId }),
        );
      }),
    ),
  { functional: true },
);
