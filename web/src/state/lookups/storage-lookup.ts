import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { selectAllDrawings } from '../drawings/drawings.selectors';
import { projectFeature } from '../project/project.reducer';
import { selectAllRuns } from '../runs/runs.selectors';
import { Lookups } from './lookups';

/** What the open project takes of the store, asked anew when drawings or runs came or went. */
@Injectable({ providedIn: 'root' })
export class StorageLookup {
  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly status = this.store.selectSignal(projectFeature.selectStatus);
  private readonly drawings = this.store.selectSignal(selectAllDrawings);
  private readonly runs = this.store.selectSignal(selectAllRuns);
  /** Null until it is known. */
  readonly current = inject(Lookups).of('storage', () => {
    const [project, runs] = [this.project(), this.runs()];
    if (project === '' || this.status() !== 'ready') return undefined;
    const files = runs.reduce((sum, run) => sum + run.files.length, 0);
    return { project, drawings: this.drawings().length, files };
  }).answer;
}
