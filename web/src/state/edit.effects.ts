import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import { catchError, concat, concatMap, EMPTY, map, of, switchMap, type Observable } from 'rxjs';
import { Api, problemOf } from './api';
import {
  EditActions,
  GatherActions,
  PackageActions,
  ProjectActions,
  SettingsActions,
  SheetActions,
} from './project.actions';
import { projectFeature } from './project.reducer';
import { PackageSaver } from './save-package';

/** What changes sheets and settings. */
const EDITS = [
  SheetActions.sheetEdited,
  SheetActions.severalEdited,
  SheetActions.copyAskedFor,
  SheetActions.removalAskedFor,
  SettingsActions.settingsEdited,
  EditActions.stepAskedFor,
] as const;

type Edit = ReturnType<(typeof EDITS)[number]>;

/** Edits go to the server one after the other, in the order they were made, steps back among them. */
export const sendEdits = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store), saver = inject(PackageSaver)) =>
    actions.pipe(
      ofType(...EDITS),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      concatMap(([edit, project]) =>
        concat(
          // A step back takes the last edit of a package back too, which may not be sent yet.
          edit.type === EditActions.stepAskedFor.type ? saver.saveAll() : EMPTY,
          send(edit, api, project).pipe(catchError((error: unknown) => afterRefusal(edit, error, api, project))),
          of(EditActions.editEnded()),
        ),
      ),
    ),
  { functional: true },
);

/** After an edit, what can be taken back and done again is asked for. */
export const askForHistory = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(
        SheetActions.sheetSaved,
        SheetActions.severalSaved,
        SettingsActions.settingsSaved,
        PackageActions.packageSaved,
        PackageActions.packageShownAnew,
        PackageActions.packageMade,
        GatherActions.sheetMade,
        GatherActions.sheetsMade,
        GatherActions.sheetsRemoved,
      ),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      switchMap(([, project]) =>
        api.history(project).pipe(
          map((history) => EditActions.historyArrived({ history })),
          catchError(() => EMPTY),
        ),
      ),
    ),
  { functional: true },
);

function send(edit: Edit, api: Api, project: string): Observable<Action> {
  switch (edit.type) {
    case SheetActions.sheetEdited.type:
      return api
        .changeSheet(project, edit.sheetId, edit.change)
        .pipe(map((sheet) => SheetActions.sheetSaved({ sheet })));
    case SheetActions.severalEdited.type:
      return api.changeSheets(project, edit.change).pipe(map((sheets) => SheetActions.severalSaved({ sheets })));
    case SheetActions.copyAskedFor.type:
      return api.copySheet(project, edit.sheetId).pipe(map((sheet) => GatherActions.sheetMade({ sheet })));
    case SheetActions.removalAskedFor.type:
      return api.removeSheets(project, edit.ids).pipe(map((removed) => GatherActions.sheetsRemoved(removed)));
    case SettingsActions.settingsEdited.type:
      return api
        .changeSettings(project, edit.change)
        .pipe(map((settings) => SettingsActions.settingsSaved({ settings })));
    case EditActions.stepAskedFor.type:
      return api.step(project, edit.way).pipe(map((step) => EditActions.stepped({ way: edit.way, step })));
  }
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
  return concat(dropped, shown, of(ProjectActions.requestRefused({ problem })));
}
