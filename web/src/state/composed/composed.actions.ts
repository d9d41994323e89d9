import { createActionGroup, props } from '@ngrx/store';
import type { SheetFacts } from '@folvex/contract';

/** A page in a certain state; the version changes with everything that it is composed from. */
export interface PageVersion {
  id: string;
  version: string;
  /** Id of the package that adds it; absent: it is a sheet of the project. */
  addedBy?: string;
}

export const ComposedActions = createActionGroup({
  source: 'Composed pages',
  events: {
    'Pages wanted': props<{ pages: readonly PageVersion[] }>(),
    /** `facts`: by id; pages that cannot be composed are missing. */
    'Pages arrived': props<{ pages: readonly PageVersion[]; facts: Readonly<Record<string, SheetFacts>> }>(),
  },
});
