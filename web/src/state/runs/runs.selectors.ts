import { createSelector } from '@ngrx/store';
import { selectPackage } from '../packages/packages.selectors';
import { runsAdapter, runsFeature } from './runs.reducer';

export const selectAllRuns = runsAdapter.getSelectors(runsFeature.selectRunsState).selectAll;

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
