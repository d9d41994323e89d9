import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import type { InvitationInfo, NewToken, SessionInfo } from '@folvex/contract';
import { AccountPage } from '../../src/app/account';
import { JoinPage } from '../../src/app/join';
import { SignInPage } from '../../src/app/sign-in';
import { LookupActions } from '../../src/state/lookups/lookups.actions';
import { OfficeActions } from '../../src/state/office/office.actions';
import { SessionActions } from '../../src/state/session/session.actions';
import { MembersPanel } from '../../src/places/settings/members-panel';
import { enter, field, press } from '../support/panels';
import { all, show, text } from '../support/parts';
import { after, type State } from '../support/state';

const signedOut: SessionInfo = { office: true, account: null, roles: {}, openId: 'Office login' };
const account = { id: 'mara', email: 'mara@office.example', name: 'Mara Holt', isOwner: true };
const session: SessionInfo = { ...signedOut, account };
const PASSWORD = 'four ferries cross at dawn';

async function shown(type: Parameters<typeof show>[0], inputs: Record<string, unknown>, state: State) {
  const fixture = await show(type, inputs, state);
  const sent: Action[] = [];
  TestBed.inject(MockStore).scannedActions$.subscribe((action) => sent.push(action));
  return { fixture, sent };
}

describe('signing in', () => {
  it('sends the address and the password, and offers the provider of the office', async () => {
    const { fixture, sent } = await shown(SignInPage, {}, after(SessionActions.sessionArrived({ session: signedOut })));
    expect(all(fixture, 'a').map((link) => link.textContent?.trim())).toContain('Sign in with Office login');
    enter(field(fixture, 'Email'), 'not an address');
    press(fixture, 'Sign in');
    await fixture.whenStable();
    expect(text(fixture)).toContain('An email address has the form name@office.example.');
    enter(field(fixture, 'Email'), 'mara@office.example');
    enter(field(fixture, 'Password'), PASSWORD);
    press(fixture, 'Sign in');
    const signIn = { email: 'mara@office.example', password: PASSWORD };
    expect(sent).toContainEqual(SessionActions.signInAskedFor({ signIn }));
  });

  it.each([
    ['/projects/quay/sheets', '/projects/quay/sheets'],
    ['//elsewhere.example', '/'],
    ['https://elsewhere.example', '/'],
    ['/\\elsewhere.example', '/'],
  ])('goes on to %s as %s: to addresses of this application only', async (back, wanted) => {
    const { fixture } = await shown(SignInPage, { back }, after(SessionActions.sessionArrived({ session: signedOut })));
    const went: string[] = [];
    TestBed.inject(Router).navigateByUrl = (url) => (went.push(String(url)), Promise.resolve(true));
    TestBed.inject(MockStore).setState(after(SessionActions.sessionArrived({ session })));
    await fixture.whenStable();
    expect(went).toEqual([wanted]);
  });
});

describe('joining', () => {
  const invited = (answer: InvitationInfo): State => {
    const query = { invitation: 'secret' };
    const key = `invitation ${JSON.stringify(query)}`;
    return after(
      SessionActions.sessionArrived({ session: signedOut }),
      LookupActions.lookupAskedFor({ key, kind: 'invitation', query }),
      LookupActions.answerArrived({ key, answer }),
    );
  };

  it('says to what, and asks for a name and a password that is long enough', async () => {
    const project = { name: 'Tern Quay', role: 'drafter' } as const;
    const state = invited({ email: 'nils@office.example', isOwner: false, project });
    const { fixture, sent } = await shown(JoinPage, { invitation: 'secret' }, state);
    expect(text(fixture)).toContain('invited to the project Tern Quay. You can edit and publish.');
    expect(text(fixture)).toContain('nils@office.example');
    enter(field(fixture, 'Your name'), 'Nils');
    enter(field(fixture, 'Password'), 'short');
    press(fixture, 'Join');
    await fixture.whenStable();
    expect(text(fixture)).toContain('at least 15 characters');
    enter(field(fixture, 'Password'), PASSWORD);
    press(fixture, 'Join');
    const join = { invitation: 'secret', name: 'Nils', password: PASSWORD };
    expect(sent).toContainEqual(SessionActions.joinAskedFor({ join }));
  });

  it('asks the first owner for an address', async () => {
    const state = invited({ email: null, isOwner: true, project: null });
    const { fixture, sent } = await shown(JoinPage, { invitation: 'secret' }, state);
    enter(field(fixture, 'Your name'), 'Oda');
    enter(field(fixture, 'Password'), PASSWORD);
    press(fixture, 'Join');
    await fixture.whenStable();
    expect(text(fixture)).toContain('Enter the email address to sign in with.');
    enter(field(fixture, 'Email'), 'oda@office.example');
    press(fixture, 'Join');
    expect(sent.at(-1)).toMatchObject({ join: { email: 'oda@office.example' } });
  });
});

describe('an account', () => {
  it('has its tokens and, for an owner, everybody’s accounts', async () => {
    const token: NewToken = {
      ...{ id: 't', name: 'nightly', createdAt: '2026-11-30T10:00:00Z', expiresAt: '2027-02-28T10:00:00Z' },
      ...{ usedAt: null, token: 'folvex_secret' },
      scope: 'publish',
    };
    const other = { id: 'o', email: 'o@office.example', name: 'Ola', isOwner: false, closedAt: null };
    const state = after(
      SessionActions.sessionArrived({ session }),
      OfficeActions.tokensArrived({ tokens: [] }),
      OfficeActions.tokenCreated({ token }),
      OfficeActions.accountsArrived({ accounts: [{ ...account, closedAt: null }, other] }),
    );
    const { fixture, sent } = await shown(AccountPage, {}, state);
    expect(text(fixture)).toContain('folvex_secret');
    expect(text(fixture)).toContain('never');
    press(fixture, 'Revoke');
    expect(sent).toContainEqual(OfficeActions.tokenRevocationAskedFor({ id: 't' }));
    // Nobody closes their own.
    expect(all(fixture, 'button').filter((button) => button.textContent?.trim() === 'Close')).toHaveLength(1);
    press(fixture, 'Close');
    expect(sent).toContainEqual(OfficeActions.accountChangeAskedFor({ account: 'o', change: { closed: true } }));
  });
});

describe('the members of a project', () => {
  const nils = { account: 'nils', name: 'Nils', email: 'nils@office.example', role: 'drafter' } as const;

  it('are invited, given roles and removed by a lead', async () => {
    const state = after(SessionActions.sessionArrived({ session }), OfficeActions.membersArrived({ members: [nils] }));
    const { fixture, sent } = await shown(MembersPanel, {}, state);
    enter(field(fixture, 'Email'), 'new@office.example');
    press(fixture, 'Invite');
    expect(sent).toContainEqual(OfficeActions.invitationAskedFor({ email: 'new@office.example', role: 'drafter' }));
    press(fixture, 'Remove');
    expect(sent).toContainEqual(OfficeActions.roleChangeAskedFor({ account: 'nils', role: null }));
  });

  it('are only listed for others', async () => {
    const reader = { ...session, account: { ...account, isOwner: false }, roles: {} };
    const state = after(
      SessionActions.sessionArrived({ session: reader }),
      OfficeActions.membersArrived({ members: [nils] }),
    );
    const { fixture } = await shown(MembersPanel, {}, state);
    expect(text(fixture)).toContain('Nils');
    expect(all(fixture, 'button')).toHaveLength(0);
  });
});
