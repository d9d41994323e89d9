import { HttpErrorResponse, HttpRequest, HttpResponse } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router, type ActivatedRouteSnapshot, type UrlTree } from '@angular/router';
import type { Action } from '@ngrx/store';
import { MockStore, provideMockStore } from '@ngrx/store/testing';
import { firstValueFrom, of, throwError, type Observable } from 'rxjs';
import type { SessionInfo } from '@folvex/contract';
import type { Problem } from '@folvex/core';
import { PresenceActions } from '../../src/state/presence/presence.actions';
import { ProjectActions } from '../../src/state/project/project.actions';
import { SessionActions } from '../../src/state/session/session.actions';
import * as effects from '../../src/state/session/session.effects';
import { noticeEndedSession, signedIn } from '../../src/state/session/session-guard';
import { LOAD_PAGE } from '../../src/state/session/load-page';
import {
  selectIsLead,
  selectIsOwner,
  selectRole,
  selectSignedOut,
  sessionFeature,
} from '../../src/state/session/session.reducer';
import { endEffects, runEffect } from '../support/effects';
import { after, type State } from '../support/state';

const account = { id: 'mara', email: 'mara@office.example', name: 'Mara', isOwner: false };
const signedOut: SessionInfo = { office: true, account: null, roles: {}, openId: null };
const session: SessionInfo = { ...signedOut, account, roles: { quay: 'drafter' } };
const alone: SessionInfo = { office: false, account: null, roles: {}, openId: null };
const problem: Problem = { code: 'access.password', sentence: 'Not right.', place: {} };

const opened = ProjectActions.projectOpened({ projectId: 'quay' });

describe('who is signed in', () => {
  it('has the role of the open project; owners and whoever is alone lead every one', () => {
    const state = after(SessionActions.sessionArrived({ session }), opened);
    expect([selectRole(state), selectIsLead(state), selectIsOwner(state)]).toEqual(['drafter', false, false]);
    const owner = { ...session, account: { ...account, isOwner: true }, roles: {} };
    expect(selectIsLead(after(SessionActions.sessionArrived({ session: owner }), opened))).toBe(true);
    const one = after(SessionActions.sessionArrived({ session: alone }), opened);
    expect([selectSignedOut(one), selectIsLead(one), selectIsOwner(one)]).toEqual([false, true, true]);
  });

  it('is nobody after the session ended, and no one else is there', () => {
    const state = after(
      SessionActions.sessionArrived({ session }),
      PresenceActions.personRemembered({ id: 'mara', name: 'Mara' }),
      SessionActions.sessionEnded(),
    );
    expect([selectSignedOut(state), sessionFeature.selectLastAccount(state)]).toEqual([true, 'mara']);
    expect(state.presence.id).toBe('');
  });

  it('is told why a sign-in was refused, until the next try', () => {
    const signIn = { email: 'a@b.example', password: 'x' };
    const tried = after(SessionActions.signInAskedFor({ signIn }), SessionActions.sessionRefused({ problem }));
    expect(tried.session).toMatchObject({ problem, sending: false });
    const again = after(SessionActions.sessionRefused({ problem }), SessionActions.signInAskedFor({ signIn }));
    expect(again.session).toMatchObject({ problem: null, sending: true });
  });
});

describe('a session', () => {
  it('is asked for, begun by a password or an invitation, and what is to be seen is then loaded', () => {
    const arrived = SessionActions.sessionArrived({ session });
    const api = { session: () => of(session), signIn: () => of(session), join: () => of(session) };
    expect(runEffect(effects.askForSession, api, SessionActions.sessionAskedFor())).toEqual([arrived]);
    endEffects();
    const signIn = { email: 'a@b.example', password: 'x' };
    expect(runEffect(effects.signIn, api, SessionActions.signInAskedFor({ signIn }))).toEqual([arrived]);
    endEffects();
    const join = { invitation: 'i', name: 'Mara', password: 'x' };
    expect(runEffect(effects.join, api, SessionActions.joinAskedFor({ join }))).toEqual([arrived]);
    endEffects();
    const failing = {
      signIn: () => throwError(() => new HttpErrorResponse({ status: 401, error: { problem } })),
    };
    expect(runEffect(effects.signIn, failing, SessionActions.signInAskedFor({ signIn }))).toEqual([
      SessionActions.sessionRefused({ problem }),
    ]);
  });
});

it('a server that does not answer at the start is told on the first page', () => {
  const away: Problem = { code: 'offline', sentence: 'Away.', place: {} };
  expect(runEffect(effects.tellWhyNotOpened, {}, SessionActions.sessionRefused({ problem: away }))).toEqual([
    ProjectActions.projectsDidNotArrive({ problem: away }),
  ]);
  endEffects();
  // A wrong password is told where it was typed.
  const arrived = SessionActions.sessionArrived({ session: signedOut });
  expect(runEffect(effects.tellWhyNotOpened, {}, arrived, SessionActions.sessionRefused({ problem }))).toEqual([]);
});

describe('an address', () => {
  const loaded: string[] = [];

  function setUp(state: State): MockStore {
    TestBed.configureTestingModule({
      providers: [
        provideRouter([]),
        provideMockStore({ initialState: state }),
        { provide: LOAD_PAGE, useValue: (address: string) => loaded.push(address) },
      ],
    });
    return TestBed.inject(MockStore);
  }

  const open = (url: string): Promise<boolean | UrlTree> =>
    TestBed.runInInjectionContext(() =>
      firstValueFrom(signedIn({} as ActivatedRouteSnapshot, { url } as never) as Observable<boolean | UrlTree>),
    );

  it('opens for whoever is signed in, or where nobody has to be', async () => {
    setUp(after(SessionActions.sessionArrived({ session })));
    expect(await open('/projects/quay')).toBe(true);
    TestBed.resetTestingModule();
    setUp(after(SessionActions.sessionArrived({ session: alone })));
    expect(await open('/')).toBe(true);
  });

  it('leads to the sign-in otherwise, which knows the way back', async () => {
    setUp(after(SessionActions.sessionArrived({ session: signedOut })));
    const tree = await open('/projects/quay/sheets');
    expect(TestBed.inject(Router).serializeUrl(tree as UrlTree)).toBe('/sign-in?back=%2Fprojects%2Fquay%2Fsheets');
  });

  it('notices the answer that the session is over, and no other', async () => {
    const store = setUp(after(SessionActions.sessionArrived({ session })));
    const sent: Action[] = [];
    store.scannedActions$.subscribe((action) => sent.push(action));
    const ask = async (answer: HttpErrorResponse | HttpResponse<unknown>): Promise<void> => {
      await firstValueFrom(
        TestBed.runInInjectionContext(() =>
          noticeEndedSession(new HttpRequest('GET', '/api/projects'), () =>
            answer instanceof HttpErrorResponse ? throwError(() => answer) : of(answer),
          ),
        ),
      ).catch(() => undefined);
    };
    await ask(new HttpResponse({ body: [] }));
    await ask(new HttpErrorResponse({ status: 401, error: { problem } }));
    expect(sent).not.toContainEqual(SessionActions.sessionEnded());
    await ask(new HttpErrorResponse({ status: 401, error: { problem: { ...problem, code: 'access.sign-in' } } }));
    expect(sent).toContainEqual(SessionActions.sessionEnded());
  });
});
