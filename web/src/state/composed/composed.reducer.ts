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
    on(ComposedActions.pagesWanted, (state, { pages }) => {
      // Not by spreading, which the build turns into a call for each of thousands of keys.
      const wanted: Record<string, string> = Object.assign({}, state.wanted);
      for (const { id, version } of pages) wanted[id] = version;
      return { ...state, wanted };
    }),
    on(ComposedActions.pagesArrived, (state, { pages, facts }) => {
      const known: Record<string, ComposedPage> = Object.assign({}, state.pages);
      for (const { id, version } of pages) {
        // Answers may overtake each other: one to an earlier question must not replace that to a later one.
        if ((state.wanted[id] ?? version) === version) known[id] = { version, facts: facts[id] ?? null };
      }
      return { ...state, pages: known };
    }),
  ),
});
