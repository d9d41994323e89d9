import { createSelector } from '@ngrx/store';
import { selectPackage } from '../packages/packages.selectors';
import { pdfsOf } from './run-pdfs';
import { runsAdapter, runsFeature } from './runs.reducer';

const ofRuns = runsAdapter.getSelectors(runsFeature.selectRunsState);

/** The runs of the project, the latest first; those that were removed are `selectRemovedRuns`. */
export const selectAllRuns = createSelector(ofRuns.selectAll, (all) => all.filter(({ removedAt }) => !removedAt));
export const selectRemovedRuns = createSelector(ofRuns.selectAll, (all) => all.filter(({ removedAt }) => removedAt));

/** The runs that wrote PDFs, with these files only. */
export const selectRunsWithPdfs = createSelector(selectAllRuns, (runs) =>
  runs.map(pdfsOf).filter((run) => run.files.length > 0),
);

/** The latest run of the chosen package. */
export const selectLatestRun = createSelector(
  selectAllRuns,
  selectPackage,
  (runs, pack) => runs.find((run) => run.packageId === pack?.id) ?? null,
);

/** The run that is waiting or running, if any; the latest of several. */
export const selectOpenRun = createSelector(
  selectAllRuns,
  (runs) => runs.find((run) => run.state === 'waiting' || run.state === 'running') ?? null,
);
