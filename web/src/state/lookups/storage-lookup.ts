import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { selectAllDrawings } from '../drawings/drawings.selectors';
import { projectFeature } from '../project/project.reducer';
import { selectAllRuns } from '../runs/runs.selectors';
import { Lookups } from './lookups';

/** What the open project uses of the store; asked for again when drawings, versions or files of runs come or go. */
@Injectable({ providedIn: 'root' })
export class StorageLookup {
  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly status = this.store.selectSignal(projectFeature.selectStatus);
  private readonly drawings = this.store.selectSignal(selectAllDrawings);
  private readonly runs = this.store.selectSignal(selectAllRuns);
  readonly current = inject(Lookups).of('storage', () => {
    const [project, runs] = [this.project(), this.runs()];
    if (project === '' || this.status() !== 'ready') return undefined;
    const versions = this.drawings().reduce((sum, { version }) => sum + version, 0);
    const files = runs.reduce((sum, run) => sum + run.files.length, 0);
    return { project, versions, files };
  });
}
