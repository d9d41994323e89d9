import { of } from 'rxjs';
import type { AuditRow, Member, NewToken, TokenInfo } from '@folvex/contract';
import { NoticeActions } from '../../src/state/notices/notices.actions';
import { OfficeActions } from '../../src/state/office/office.actions';
import * as effects from '../../src/state/office/office.effects';
import { officeFeature } from '../../src/state/office/office.reducer';
import { ProjectActions } from '../../src/state/project/project.actions';
import { endEffects, runEffect } from '../support/effects';
import { after } from '../support/state';

const members: Member[] = [{ account: 'nils', name: 'Nils', email: 'nils@office.example', role: 'drafter' }];
const info: TokenInfo = { id: 't', name: 'nightly', scope: 'read', createdAt: '', expiresAt: '', usedAt: null };
const token: NewToken = { ...info, token: 'folvex_secret' };
const rows = (from: number, count: number): AuditRow[] =>
  Array.from({ length: count }, (_, i) => ({
    ...{ id: from - i, at: '', name: 'Mara', event: 'edit.made', project: null, subject: '' },
  }));

describe('the office', () => {
  it('shows a new token once, and no more after it is revoked or the list is looked at again', () => {
    const made = after(OfficeActions.tokensArrived({ tokens: [] }), OfficeActions.tokenCreated({ token }));
    expect(officeFeature.selectNewToken(made)).toEqual(token);
    expect(officeFeature.selectTokens(made)).toHaveLength(1);
    for (const action of [OfficeActions.tokenRevocationAskedFor({ id: 't' }), OfficeActions.tokensAskedFor()])
      expect(officeFeature.selectNewToken(after(OfficeActions.tokenCreated({ token }), action))).toBeNull();
  });

  it('keeps the link of an invitation until another project is opened', () => {
    const invited = { outcome: 'link', link: 'http://x/join/y', expiresAt: '' } as const;
    const said = OfficeActions.personInvited({ email: 'a@b.example', invited });
    expect(officeFeature.selectInvitation(after(said))).toMatchObject({ email: 'a@b.example', link: invited.link });
    const left = after(said, ProjectActions.projectOpened({ projectId: 'other' }));
    expect(officeFeature.selectInvitation(left)).toBeNull();
    const added = OfficeActions.personInvited({ email: '', invited: { outcome: 'added', members } });
    expect(officeFeature.selectMembers(after(said, added))).toEqual(members);
  });

  it('adds older rows of the audit, and knows when there are no more', () => {
    const first = OfficeActions.auditArrived({ rows: rows(500, 200) });
    expect(after(first).office).toMatchObject({ isAuditWhole: false });
    const older = after(first, OfficeActions.auditArrived({ rows: rows(300, 5), before: 301 })).office;
    expect([older.audit?.length, older.audit?.at(-1)?.id, older.isAuditWhole]).toEqual([205, 296, true]);
  });
});

describe('changes in the office', () => {
  it('ask for and answer the members, of the open project', () => {
    const asked: unknown[] = [];
    const api = {
      members: (project: string) => (asked.push(project), of(members)),
      changeRole: (...given: unknown[]) => (asked.push(given), of(members)),
      invite: (...given: unknown[]) => (asked.push(given), of({ outcome: 'added', members } as const)),
    };
    const arrived = OfficeActions.membersArrived({ members });
    expect(runEffect(effects.changeMembers, api, OfficeActions.membersAskedFor())).toEqual([arrived]);
    endEffects();
    const change = OfficeActions.roleChangeAskedFor({ account: 'nils', role: null });
    expect(runEffect(effects.changeMembers, api, change)).toEqual([arrived]);
    endEffects();
    const [invited] = runEffect(effects.invite, api, OfficeActions.invitationAskedFor({ email: 'e', role: 'lead' }));
    expect(invited).toMatchObject({ email: 'e', invited: { outcome: 'added' } });
    const project = asked[0];
    expect(asked).toEqual([project, [project, 'nils', null], [project, 'e', 'lead']]);
  });

  it('list the tokens again once one is revoked', () => {
    const revoked: string[] = [];
    const api = { revokeToken: (id: string) => (revoked.push(id), of(undefined)), tokens: () => of([]) };
    const found = runEffect(effects.changeTokens, api, OfficeActions.tokenRevocationAskedFor({ id: 't' }));
    expect([revoked, found]).toEqual([['t'], [OfficeActions.tokensArrived({ tokens: [] })]]);
  });

  it('tell that the password is changed', () => {
    const api = { changePassword: () => of(undefined) };
    const found = runEffect(
      effects.changePassword,
      api,
      OfficeActions.passwordChangeAskedFor({ was: 'a', password: 'b' }),
    ) as { type: string }[];
    expect(found.map(({ type }) => type)).toEqual([OfficeActions.passwordChanged.type, NoticeActions.noticeShown.type]);
  });
});
