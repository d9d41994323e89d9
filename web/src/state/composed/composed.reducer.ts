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
    on(ComposedActions.pagesArrived, (state, { pages, facts }) => ({
      pages: {
        ...state.pages,
        ...Object.fromEntries(pages.map(({ id, version }) => [id, { version, facts: facts[id] ?? null }])),
      },
    })),
  ),
});
