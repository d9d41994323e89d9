import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { convertToParamMap, type ActivatedRouteSnapshot, type RouterStateSnapshot } from '@angular/router';
import type { Action } from '@ngrx/store';
import { MockStore, provideMockStore } from '@ngrx/store/testing';
import { HttpErrorResponse } from '@angular/common/http';
import { isObservable, lastValueFrom, of, throwError, type Observable } from 'rxjs';
import type { EditAnswer, PackageChange } from '@folvex/contract';
import { openProject } from '../../src/app/open-project';
import { Api } from '../../src/state/api';
import { NoticeActions } from '../../src/state/notices/notices.actions';
import { PackageActions } from '../../src/state/packages/packages.actions';
import { ProjectActions } from '../../src/state/project/project.actions';
import { answerOf } from '../support/answers';
import { pack, projectInfo } from '../support/effects';
import { after, type State } from '../support/state';

const arrived = ProjectActions.projectArrived({ info: projectInfo });
const opened = ProjectActions.projectOpened({ projectId: 'project' });
const edited = PackageActions.packageEdited({ packageId: 'p', change: { bundling: 'sheet' } });

/** Goes to a project from a state; `answer`: of the server to edits that are saved on the way. */
async function go(project: string, state: State, answer: Observable<EditAnswer> = of(answerOf({ pack }))) {
  const saved: PackageChange[] = [];
  const api = { changePackage: (_: string, __: string, change: PackageChange) => (saved.push(change), answer) };
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideMockStore({ initialState: state }),
      { provide: Api, useValue: api },
    ],
  });
  const store = TestBed.inject(MockStore);
  const sent: Action[] = [];
  store.scannedActions$.subscribe((action) => {
    sent.push(action);
    // What was saved is saved in the state, too.
    if (action.type === PackageActions.packageSaved.type) store.setState(after(opened, arrived));
  });
  const route = { paramMap: convertToParamMap({ project }) } as ActivatedRouteSnapshot;
  const result = TestBed.runInInjectionContext(() => openProject(route, {} as RouterStateSnapshot));
  const allowed = isObservable(result) ? await lastValueFrom(result) : result;
  return { allowed, saved, types: sent.map(({ type }) => type) };
}

describe('the address of a project', () => {
  it('opens it', async () => {
    const { allowed, types } = await go('other', after());
    expect(allowed).toBe(true);
    expect(types).toContain(ProjectActions.projectOpened.type);
  });

  it('does nothing where it is open already', async () => {
    const { allowed, types } = await go('project', after(opened, arrived));
    expect(allowed).toBe(true);
    expect(types).not.toContain(ProjectActions.projectOpened.type);
  });

  it('has the edits of the project before saved first', async () => {
    const { allowed, saved, types } = await go('other', after(opened, arrived, edited));
    expect(saved).toEqual([{ bundling: 'sheet', was: { bundling: 'one' } }]);
    expect(allowed).toBe(true);
    expect(types.indexOf(PackageActions.packageSaved.type)).toBeLessThan(
      types.indexOf(ProjectActions.projectOpened.type),
    );
  });

  it('stays closed while edits cannot be saved, and says so', async () => {
    const away = throwError(() => new HttpErrorResponse({ status: 0 }));
    const { allowed, types } = await go('other', after(opened, arrived, edited), away);
    expect(allowed).toBe(false);
    expect(types).toContain(NoticeActions.requestRefused.type);
    expect(types).not.toContain(ProjectActions.projectOpened.type);
  });
});
