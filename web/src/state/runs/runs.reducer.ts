import { createEntityAdapter } from '@ngrx/entity';
import { createFeature, createReducer, on } from '@ngrx/store';
import type { RunInfo } from '@folvex/contract';
import { ProjectActions } from '../project/project.actions';
import { RunActions } from './runs.actions';

export const runsAdapter = createEntityAdapter<RunInfo>({
  sortComparer: (a, b) => (a.createdAt < b.createdAt ? 1 : -1),
});

/** What a run is called. */
export function nameOfRun({ name, packageName }: Pick<RunInfo, 'name' | 'packageName'>): string {
  return name ?? packageName;
}

/** The runs of the project, the latest first. */
export const runsFeature = createFeature({
  name: 'runs',
  reducer: createReducer(
    runsAdapter.getInitialState(),
    on(ProjectActions.projectOpened, () => runsAdapter.getInitialState()),
    on(ProjectActions.projectArrived, (state, { info }) => runsAdapter.setAll(info.runs, state)),
    on(RunActions.runBegun, RunActions.runFound, RunActions.deliveryBegun, RunActions.runAdvanced, (state, { run }) =>
      runsAdapter.setOne(run, state),
    ),
  ),
});
