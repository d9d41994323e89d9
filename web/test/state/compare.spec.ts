import { CompareActions } from '../../src/state/compare/compare.actions';
import { compareFeature } from '../../src/state/compare/compare.reducer';
import { after } from '../support/state';

it('keeps how pages are compared from page to page, but not the difference that was chosen', () => {
  const chosen = [
    CompareActions.modeChosen({ mode: 'line' }),
    CompareActions.lineMoved({ lineAt: 30 }),
    CompareActions.differenceChosen({ difference: 2 }),
  ];
  expect(compareFeature.selectCompareState(after(...chosen))).toEqual({ mode: 'line', lineAt: 30, difference: 2 });
  const next = after(...chosen, CompareActions.pageCompared());
  expect(compareFeature.selectCompareState(next)).toEqual({ mode: 'line', lineAt: 30, difference: -1 });
});
