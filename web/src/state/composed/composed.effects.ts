import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { MOST_COMPOSED, type SheetFacts } from '@folvex/contract';
import { catchError, finalize, from, map, mergeMap, type Observable } from 'rxjs';
import { Api } from '../api';
import { refused } from '../notices/refused';
import { projectFeature } from '../project/project.reducer';
import { whileOpen } from '../project/while-open';
import { ComposedActions, type PageVersion } from './composed.actions';
import { composedFeature } from './composed.reducer';

const AT_ONCE = 2;

/** Asks for pages that are not known in their present version, many with one request. */
export const composePages = createEffect(
  (actions = inject(Actions), api = inject(Api), store = inject(Store)) => {
    // The version of each that was asked for last, by id, until it has arrived.
    const asked = new Map<string, string>();
    const isAsked = ({ id, version }: PageVersion): boolean => asked.get(id) === version;
    return actions.pipe(
      ofType(ComposedActions.pagesWanted),
      concatLatestFrom(() => [store.select(projectFeature.selectId), store.select(composedFeature.selectPages)]),
      mergeMap(([{ pages }, project, known]) => {
        const unknown = pages.filter(({ id, version }) => {
          const isKnown = known[id]?.version === version;
          // An answer to a question for another version must not replace what is known.
          if (isKnown) asked.delete(id);
          return !isKnown;
        });
        const missing = unknown.filter((page) => !isAsked(page));
        for (const { id, version } of missing) asked.set(id, version);
        return from(inParts(missing)).pipe(
          mergeMap(
            (part) =>
              request(api, project, part).pipe(
                // Answers may overtake each other: one to an earlier question must not replace that to a later one.
                map((facts) => ComposedActions.pagesArrived({ pages: part.filter(isAsked), facts })),
                catchError(refused),
                whileOpen(store, project),
                finalize(() => part.filter(isAsked).forEach(({ id }) => asked.delete(id))),
              ),
            AT_ONCE,
          ),
        );
      }),
    );
  },
  { functional: true },
);

/** Sheets of the project in parts that one request may ask for; what a package adds by itself. */
function inParts(pages: readonly PageVersion[]): PageVersion[][] {
  const sheets = pages.filter(({ addedBy }) => addedBy === undefined);
  const parts: PageVersion[][] = [];
  for (let at = 0; at < sheets.length; at += MOST_COMPOSED) parts.push(sheets.slice(at, at + MOST_COMPOSED));
  return [...parts, ...pages.filter(({ addedBy }) => addedBy !== undefined).map((page) => [page])];
}

function request(api: Api, project: string, part: readonly PageVersion[]): Observable<Record<string, SheetFacts>> {
  const [{ id, addedBy }] = part as [PageVersion];
  return addedBy === undefined
    ? api.composedSheets(
        project,
        part.map((page) => page.id),
      )
    : api.addedPageFacts(project, addedBy, id).pipe(map((facts) => ({ [id]: facts })));
}
