import { createFeature, createReducer, on } from '@ngrx/store';
import { CompareActions, type CompareMode } from './compare.actions';

export interface CompareState {
  mode: CompareMode;
  /** Where the line is, per cent from the left: before it the page as it was. */
  lineAt: number;
  /** Which of the differences of the page is chosen; -1: none. */
  difference: number;
}

const initial: CompareState = { mode: 'together', lineAt: 50, difference: -1 };

/** How a run is compared with an earlier one; which two they are is in the address. */
export const compareFeature = createFeature({
  name: 'compare',
  reducer: createReducer(
    initial,
    on(CompareActions.modeChosen, (state, { mode }) => ({ ...state, mode })),
    on(CompareActions.lineMoved, (state, { lineAt }) => ({ ...state, lineAt })),
    on(CompareActions.differenceChosen, (state, { difference }) => ({ ...state, difference })),
    on(CompareActions.pageCompared, (state) => ({ ...state, difference: -1 })),
  ),
});
