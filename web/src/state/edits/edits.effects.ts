import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import { isEmptySettingsChange, settingsChange, type EditAnswer } from '@folvex/contract';
import { catchError, concat, EMPTY, map, mergeMap, of, switchMap, take, type Observable } from 'rxjs';
import { Api, problemOf } from '../api';
import { NoticeActions } from '../notices/notices.actions';
import { PackageSaver } from '../packages/package-saver';
import { EditQueue } from '../edits/edit-queue';
import { SettingsActions } from '../project/project.actions';
import { projectFeature } from '../project/project.reducer';
import { selectSettings } from '../project/project.selectors';
import { SheetActions } from '../sheets/sheets.actions';
import { EditActions } from './edits.actions';

/** What changes sheets and settings. */
const EDITS = [
  SheetActions.sheetEdited,
  SheetActions.severalEdited,
  SheetActions.copyAskedFor,
  SheetActions.removalAskedFor,
  SettingsActions.settingsEdited,
  SettingsActions.typefacesSent,
  EditActions.stepAskedFor,
] as const;

type Edit = ReturnType<(typeof EDITS)[number]>;

/** Edits go to the server one after the other, in the order they were made, undo and redo among them. */
export const sendEdits = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), saver = inject(PackageSaver)) => {
    const queue = inject(EditQueue);
    return actions.pipe(
      ofType(...EDITS),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      mergeMap(([edit, project]) =>
        queue.run(() =>
          concat(
            // Undo also reverts the last edit of a package, which may not be sent yet.
            edit.type === EditActions.stepAskedFor.type ? saver.sendAll() : EMPTY,
            send(edit, api, store, project).pipe(
              catchError((error: unknown) => afterRefusal(edit, error, api, project)),
            ),
            of(EditActions.editEnded({ edit: edit.type })),
          ),
        ),
      ),
    );
  },
  { functional: true },
);

function send(edit: Edit, api: Api, store: Store, project: string): Observable<Action> {
  switch (edit.type) {
    case SheetActions.sheetEdited.type:
      return api
        .changeSheet(project, edit.sheetId, edit.change)
        .pipe(shown(({ sheets: [sheet] }) => SheetActions.sheetSaved({ sheet: sheet! })));
    case SheetActions.severalEdited.type:
      return api.changeSheets(project, edit.change).pipe(shown(({ sheets }) => SheetActions.severalSaved({ sheets })));
    case SheetActions.copyAskedFor.type:
      return api.copySheet(project, edit.sheetId).pipe(shown(({ sheets }) => SheetActions.sheetsCreated({ sheets })));
    case SheetActions.removalAskedFor.type:
      return api
        .removeSheets(project, edit.ids)
        .pipe(shown(({ removed }) => SheetActions.sheetsRemoved({ ids: removed })));
    case SettingsActions.settingsEdited.type:
      return sendSettings(api, store, project);
    case SettingsActions.typefacesSent.type:
      return api
        .addTypefaces(project, edit.file)
        .pipe(shown(({ settings }) => SettingsActions.typefacesAdded({ settings: settings! })));
    case EditActions.stepAskedFor.type:
      return api.step(project, edit.way).pipe(map((step) => EditActions.stepped({ way: edit.way, step })));
  }
}

/** Sends what differs in the settings shown from those that the server has when their turn comes. */
function sendSettings(api: Api, store: Store, project: string): Observable<Action> {
  return store.select(selectSettings).pipe(
    take(1),
    switchMap(({ ours, saved }) => {
      if (!ours || !saved) return EMPTY;
      const change = settingsChange(saved, ours);
      if (isEmptySettingsChange(change)) return EMPTY;
      return api
        .changeSettings(project, change)
        .pipe(shown(({ settings }) => SettingsActions.settingsSaved({ settings: settings ?? ours, sent: ours })));
    }),
  );
}

/** An answer as the action that shows what was changed, then what can be undone from there. */
function shown(action: (answer: EditAnswer) => Action) {
  return mergeMap((answer: EditAnswer) => of(action(answer), EditActions.historyArrived({ history: answer.history })));
}

/** Says what was refused, and shows what is there; where the server is away, what was typed is kept to be sent again. */
function afterRefusal(edit: Edit, error: unknown, api: Api, project: string): Observable<Action> {
  const problem = problemOf(error);
  const away = problem.code === 'offline';
  const dropped =
    edit.type === SheetActions.sheetEdited.type
      ? of(SheetActions.sheetEditRefused({ sheetId: edit.sheetId, kept: away }))
      : EMPTY;
  const shown = away
    ? EMPTY
    : api.project(project).pipe(
        map((info) => EditActions.sheetsShownAnew({ info })),
        catchError(() => EMPTY),
      );
  return concat(dropped, shown, of(NoticeActions.requestRefused({ problem })));
}
