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
}

const initial: ComposedState = { pages: {} };

/** How pages came out when the server composed them last. */
export const composedFeature = createFeature({
  name: 'composed',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(ComposedActions.pagesArrived, (state, { pages, facts }) => {
      // Not by spreading, which the build turns into a call for each of thousands of keys.
      const known: Record<string, ComposedPage> = Object.assign({}, state.pages);
      for (const { id, version } of pages) known[id] = { version, facts: facts[id] ?? null };
      return { pages: known };
    }),
  ),
});
