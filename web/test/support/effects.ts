import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideMockActions } from '@ngrx/effects/testing';
import type { Action } from '@ngrx/store';
import { provideMockStore } from '@ngrx/store/testing';
import { Subject, type Observable, type Subscription } from 'rxjs';
import type { ProjectInfo } from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';
import { Api } from '../../src/state/api';
import { OfficeApi } from '../../src/state/office-api';
import { ProjectActions } from '../../src/state/project/project.actions';
import { after } from './state';

/** A package with one page. */
export const pack: SheetPackage = {
  id: 'p',
  name: 'Permit',
  recipe: '',
  order: ['a'],
  bundling: 'one',
  names: { file: '', folder: '', bundle: '[package.name]' },
};
/** An open project that holds this package only. */
export const projectInfo = {
  id: 'project',
  project: { number: '1', name: 'P', client: '', fields: {} },
  groups: [],
  drawings: [],
  sheets: [],
  packages: [pack],
  recipes: [],
  runs: [],
  history: { undo: null, redo: null },
} as ProjectInfo;

let running: Subscription[] = [];
/** Ends all effects that run; a test may begin others then. */
export function endEffects(): void {
  running.forEach((one) => one.unsubscribe());
  running = [];
  TestBed.resetTestingModule();
}
afterEach(endEffects);

/** Runs one effect against a server that is played by `api`; returns what it dispatched. */
export function runEffect(
  effect: () => Observable<unknown>,
  api: Partial<Api> & Partial<OfficeApi>,
  ...sent: Action[]
): unknown[] {
  const actions = new Subject<Action>();
  const initialState = after(ProjectActions.projectArrived({ info: projectInfo }), ...sent);
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideMockActions(() => actions),
      provideMockStore({ initialState }),
      { provide: Api, useValue: api },
      { provide: OfficeApi, useValue: api },
    ],
  });
  const dispatched: unknown[] = [];
  running.push(TestBed.runInInjectionContext(() => effect()).subscribe((action) => dispatched.push(action)));
  sent.forEach((action) => actions.next(action));
  return dispatched;
}
