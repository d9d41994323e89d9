import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { catchError, from, map, of, switchMap, takeUntil, tap } from 'rxjs';
import { readRenameTable, type Problem, type ProblemCode } from '@folvex/core';
import { Relinker } from '../../engine/relinker';
import { saveFile } from '../save-file';
import { RelinkActions } from './relink.actions';
import { relinkFeature } from './relink.reducer';

export const findLinks = createEffect(
  (actions = inject(Actions), relinker = inject(Relinker)) =>
    actions.pipe(
      ofType(RelinkActions.filesChosen),
      switchMap(({ files }) =>
        relinker.look(files).pipe(
          map((step) => ('answer' in step ? RelinkActions.linksFound(step.answer) : RelinkActions.workAdvanced(step))),
          catchError(() => {
            relinker.end();
            return of(failed('relink.read', 'The files could not be read; choose them again, or fewer at a time.'));
          }),
          takeUntil(actions.pipe(ofType(RelinkActions.setDismissed))),
        ),
      ),
    ),
  { functional: true },
);

export const writeFiles = createEffect(
  (actions = inject(Actions), relinker = inject(Relinker), store = inject(Store)) =>
    actions.pipe(
      ofType(RelinkActions.repairedFilesAskedFor),
      concatLatestFrom(() => store.select(relinkFeature.selectPlan)),
      switchMap(([, plan]) =>
        relinker.write(plan).pipe(
          map((step) => {
            if (!('answer' in step)) return RelinkActions.workAdvanced(step);
            saveFile('relinked.zip', 'application/zip', step.answer);
            return RelinkActions.repairedFilesWritten();
          }),
          catchError(() => {
            relinker.end();
            return of(
              failed(
                'relink.write',
                'The repaired files could not be written; choose the files again, or fewer at a time.',
              ),
            );
          }),
          takeUntil(actions.pipe(ofType(RelinkActions.setDismissed, RelinkActions.filesChosen))),
        ),
      ),
    ),
  { functional: true },
);

/** Work that nobody waits for ends with its thread. */
export const dismissSet = createEffect(
  (actions = inject(Actions), relinker = inject(Relinker)) =>
    actions.pipe(
      ofType(RelinkActions.setDismissed),
      tap(() => relinker.end()),
    ),
  { functional: true, dispatch: false },
);

export const readTable = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(RelinkActions.tableChosen),
      switchMap(({ file }) =>
        from(file.text()).pipe(
          map((text) => {
            const table = readRenameTable(text);
            if (table.length > 0) return RelinkActions.tableRead({ table });
            const sentence = `${file.name} has no row with the name of a PDF and its new name; put the old names in its first column and the new ones in its second.`;
            return RelinkActions.tableFailed({ problem: problem('relink.table', sentence) });
          }),
          catchError(() => {
            const sentence = `${file.name} could not be read; choose it again.`;
            return of(RelinkActions.tableFailed({ problem: problem('relink.table', sentence) }));
          }),
        ),
      ),
    ),
  { functional: true },
);

function failed(code: ProblemCode, sentence: string) {
  return RelinkActions.workFailed({ problem: problem(code, sentence) });
}

function problem(code: ProblemCode, sentence: string): Problem {
  return { code, sentence, place: {} };
}
