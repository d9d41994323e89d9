import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store, type Action } from '@ngrx/store';
import { catchError, concat, concatMap, EMPTY, from, map, mergeMap, of } from 'rxjs';
import { Api, problemOf } from '../api';
import { refused } from '../notices/refused';
import { removedNotice } from '../notices/removed-notice';
import { unpacked } from '../drawings/unpack';
import { projectFeature } from '../project/project.reducer';
import { whileOpen } from '../project/while-open';
import { DrawingActions } from './drawings.actions';
import { selectUploadEntities } from './drawings.selectors';

const UPLOADS_AT_ONCE = 3;
let uploads = 0;

/** Dropped files go to the server a few at a time, archives opened first. */
export const sendDrawings = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(DrawingActions.filesDropped),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      mergeMap(([{ files, newerOf }, project]) =>
        from(unpacked(files)).pipe(
          mergeMap(({ files: found, leftOut }) => {
            const sent = found.map((file) => ({ file, project, newerOf, uploadId: ++uploads }));
            // All of them are listed from the start, to show how many are still to come.
            const listed = sent.map(({ file, uploadId }) => DrawingActions.uploadBegan({ uploadId, name: file.name }));
            const left = leftOut.length ? [DrawingActions.filesLeftOut({ uploadId: ++uploads, files: leftOut })] : [];
            return concat(
              from([...listed, ...left]),
              from(sent).pipe(mergeMap((upload) => sendOne(api, upload), UPLOADS_AT_ONCE)),
            ).pipe(whileOpen(store, project));
          }),
        ),
      ),
    ),
  { functional: true },
);

function sendOne(
  api: Api,
  { file, project, newerOf, uploadId }: { file: File; project: string; newerOf?: string; uploadId: number },
) {
  return api.upload(project, file, newerOf).pipe(
    map((event) =>
      'answer' in event
        ? DrawingActions.fileReceived({ uploadId, received: event.answer })
        : DrawingActions.uploadAdvanced({ uploadId, share: event.share }),
    ),
    catchError((error: unknown) => of(DrawingActions.drawingRefused({ uploadId, problem: problemOf(error) }))),
  );
}

export const answerOffer = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) =>
    actions.pipe(
      ofType(DrawingActions.offerAnswered),
      concatLatestFrom(() => [store.select(projectFeature.selectId), store.select(selectUploadEntities)]),
      mergeMap(([{ uploadId, as, password }, project, entities]) => {
        const { offered, drawing } = entities[uploadId] ?? {};
        if (!offered) return EMPTY;
        const answer = { offered, as, ...(drawing && { drawing }), ...(as === 'unlock' && { password }) };
        return api.answerOffer(project, answer).pipe(
          map((received) => DrawingActions.fileReceived({ uploadId, received })),
          catchError((error: unknown) => of(DrawingActions.drawingRefused({ uploadId, problem: problemOf(error) }))),
          whileOpen(store, project),
        );
      }),
    ),
  { functional: true },
);

export const setDrawingFacts = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(DrawingActions.drawingStated),
      concatMap(({ drawingId, change }) =>
        api.changeDrawing(drawingId, change).pipe(
          map((drawing) => DrawingActions.drawingChanged({ drawing })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const mergeComments = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(DrawingActions.commentsMergeAskedFor),
      concatMap(({ drawingId }) =>
        api.mergeComments(drawingId).pipe(
          map((drawing) => DrawingActions.drawingChanged({ drawing })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

export const removeDrawing = createEffect(
  (actions = inject(Actions), api = inject(Api)) =>
    actions.pipe(
      ofType(DrawingActions.removalAskedFor),
      concatMap(({ drawingId, removed }) =>
        api.removeDrawing(drawingId, removed).pipe(
          mergeMap((drawing): Action[] => [
            DrawingActions.drawingChanged({ drawing }),
            ...(removed
              ? [removedNotice(drawing.name, DrawingActions.removalAskedFor({ drawingId, removed: false }))]
              : []),
          ]),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);
