import { createFeature, createReducer, on } from '@ngrx/store';
import type { SheetFacts } from '@folvex/contract';
import { ProjectActions } from '../project/project.actions';
import { ComposedActions } from './composed.actions';

/** How a page came out; null where it cannot be composed. */
export interface ComposedPage {
  version: string;
  facts: SheetFacts | null;
}

export interface ComposedState {
  /** As each was composed last, by id. */
  pages: Readonly<Record<string, ComposedPage>>;
  /** The version of each that was asked for last, by id. */
  wanted: Readonly<Record<string, string>>;
}

const initial: ComposedState = { pages: {}, wanted: {} };

/** How pages came out when the server composed them last. */
export const composedFeature = createFeature({
  name: 'composed',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(ComposedActions.pagesWanted, (state, { pages }) => ({
      ...state,
      wanted: { ...state.wanted, ...Object.fromEntries(pages.map(({ id, version }) => [id, version])) },
    })),
    on(ComposedActions.pagesArrived, (state, { pages, facts }) => {
      // Answers may overtake each other: one to an earlier question must not replace that to a later one.
      const current = pages.filter(({ id, version }) => (state.wanted[id] ?? version) === version);
      const arrived = current.map(({ id, version }) => [id, { version, facts: facts[id] ?? null }]);
      return { ...state, pages: { ...state.pages, ...(Object.fromEntries(arrived) as ComposedState['pages']) } };
    }),
  ),
});
