import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import { projectFeature } from './project.reducer';

/** Addresses within the open project. */
@Injectable({ providedIn: 'root' })
export class ProjectLinks {
  private readonly project = inject(Store).selectSignal(projectFeature.selectId);

  /** Commands of the router that lead there, such as `to('sheets', id)`. */
  readonly to = (...parts: readonly string[]): string[] => ['/projects', this.project(), ...parts];
}
