import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideMockActions } from '@ngrx/effects/testing';
import type { Action } from '@ngrx/store';
import { MockStore, provideMockStore } from '@ngrx/store/testing';
import { EMPTY, of, throwError, type Observable } from 'rxjs';
import { PRESENT_EVERY_S, type Person, type Presence } from '@folvex/contract';
import { Api } from '../../src/state/api';
import { PresenceActions } from '../../src/state/presence/presence.actions';
import * as effects from '../../src/state/presence/presence.effects';
import { selectOthers } from '../../src/state/presence/presence.reducer';
import { ProjectActions } from '../../src/state/project/project.actions';
import { news } from '../support/news';
import { after } from '../support/state';

const ben: Person = { id: 'ben', name: 'Ben', sheet: null };
const ada = PresenceActions.personRemembered({ id: 'ada', name: 'Ada' });

/** The store at an address; `quay` was open last on the first page. */
function stateAt(url: string) {
  const projectId = /^\/projects\/(\w+)/.exec(url)?.[1] ?? 'quay';
  const sheet = /\/sheets\/([^?]+)/.exec(url)?.[1];
  const root = { params: sheet ? { sheet: decodeURIComponent(sheet) } : {} };
  return {
    ...after(ProjectActions.projectOpened({ projectId }), ada),
    router: { navigationId: 1, state: { url, root } },
  };
}

/** Runs an effect at an address, against a server that is played by `api`. */
function run(effect: () => Observable<unknown>, url: string, api: Partial<Api>) {
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideMockActions(() => EMPTY),
      provideMockStore({ initialState: stateAt(url) }),
      { provide: Api, useValue: api },
    ],
  });
  const dispatched: unknown[] = [];
  const running = TestBed.runInInjectionContext(() => effect()).subscribe((action) => dispatched.push(action));
  return { dispatched, running, go: (next: string) => TestBed.inject(MockStore).setState(stateAt(next)) };
}

describe('presence', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  it('is told at once, again and again, and with each sheet that is opened; others are learned', () => {
    const reported: [string, Presence][] = [];
    const reportPresence: Api['reportPresence'] = (project, presence) => (
      reported.push([project, presence]),
      of(news({ people: [ben] }))
    );
    const { dispatched, running, go } = run(effects.reportPresence, '/projects/quay/gather', { reportPresence });
    jest.advanceTimersByTime(1);
    expect(reported).toMatchObject([['quay', { id: 'ada', name: 'Ada', sheet: null }]]);
    jest.advanceTimersByTime(PRESENT_EVERY_S * 1000);
    expect(reported).toHaveLength(2);
    go('/projects/quay/sheets/a%20101?field=number');
    jest.advanceTimersByTime(1);
    expect(reported[2]).toMatchObject(['quay', { sheet: 'a 101' }]);
    go('/');
    jest.advanceTimersByTime(PRESENT_EVERY_S * 2000);
    expect(reported).toHaveLength(3);
    expect(dispatched).toEqual(Array(3).fill(PresenceActions.newsArrived({ news: news({ people: [ben] }) })));
    running.unsubscribe();
  });

  it('goes on where the server cannot be reached for a while', () => {
    let away = true;
    const reportPresence: Api['reportPresence'] = () =>
      away ? throwError(() => new Error('away')) : of(news({ people: [ben] }));
    const { dispatched, running } = run(effects.reportPresence, '/projects/quay', { reportPresence });
    jest.advanceTimersByTime(1);
    away = false;
    jest.advanceTimersByTime(PRESENT_EVERY_S * 1000);
    expect(dispatched).toHaveLength(1);
    running.unsubscribe();
  });

  it('ends with the project, and with the window', () => {
    const ended: string[] = [];
    const { running, go } = run(effects.endPresence, '/projects/quay', { endPresence: (one) => void ended.push(one) });
    go('/projects/quay/sheets');
    expect(ended).toEqual([]);
    window.dispatchEvent(new Event('pagehide'));
    go('/projects/barn');
    expect(ended).toEqual(['quay', 'quay']);
    go('/');
    expect(ended).toEqual(['quay', 'quay', 'barn']);
    running.unsubscribe();
  });

  it('is learned of every project on the first page, again and again', () => {
    const everyPresence = jest.fn(() => of({ quay: [ben] }));
    const { dispatched, running, go } = run(effects.watchEverybody, '/', { everyPresence });
    jest.advanceTimersByTime(1 + PRESENT_EVERY_S * 1000);
    expect(dispatched).toEqual(Array(2).fill(PresenceActions.everybodyArrived({ byProject: { quay: [ben] } })));
    go('/projects/quay');
    jest.advanceTimersByTime(PRESENT_EVERY_S * 2000);
    expect(everyPresence).toHaveBeenCalledTimes(2);
    running.unsubscribe();
  });

  it('is everybody but the person at this browser, and nobody once another project is open', () => {
    const people = [{ id: 'ada', name: 'Ada', sheet: null }, ben];
    const arrived: Action[] = [ada, PresenceActions.newsArrived({ news: news({ people }) })];
    expect(selectOthers(after(...arrived))).toEqual([ben]);
    expect(selectOthers(after(...arrived, ProjectActions.projectOpened({ projectId: 'x' })))).toEqual([]);
  });
});
