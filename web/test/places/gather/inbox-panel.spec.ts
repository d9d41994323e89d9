import { TestBed } from '@angular/core/testing';
import type { Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import type { ArrivalInfo, DrawingInfo, InboxInfo } from '@folvex/contract';
import { InboxPanel } from '../../../src/places/gather/inbox-panel';
import { InboxesPanel } from '../../../src/places/settings/inboxes-panel';
import { inboxOf, inboxRow } from '../../../src/places/settings/lists';
import { ArrivalActions } from '../../../src/state/arrivals/arrivals.actions';
import { DrawingActions } from '../../../src/state/drawings/drawings.actions';
import { ProjectActions } from '../../../src/state/project/project.actions';
import { SessionActions } from '../../../src/state/session/session.actions';
import { projectInfo } from '../../support/effects';
import { enter, field, press } from '../../support/panels';
import { all, show, text } from '../../support/parts';
import { after } from '../../support/state';

const problem = { code: 'pdf.password', sentence: 'late.pdf is protected.', place: {} } as const;
const at = '2026-12-02T08:00:00.000Z';
const arrival = (id: string, of: Partial<ArrivalInfo> = {}): ArrivalInfo => ({
  ...{ id, inbox: 'Structures', path: `${id}.dxf`, bytes: 10, at, state: 'waiting' },
  ...{ drawing: null, version: null, offered: { name: id, hash: id, bytes: 10 }, problem: null, by: null },
  ...of,
});
const drawing = { id: 'd', name: 'S-101.dxf', version: 2, removedAt: null } as DrawingInfo;
const actionsOf = (inboxes: readonly InboxInfo[], ...arrivals: ArrivalInfo[]): Action[] => {
  const project = { ...projectInfo.project, inboxes: [{ id: 'i', name: 'Structures' }] };
  return [
    ProjectActions.projectOpened({ projectId: projectInfo.id }),
    ProjectActions.projectArrived({ info: { ...projectInfo, project } }),
    DrawingActions.drawingChanged({ drawing }),
    ArrivalActions.arrivalsCame({ arrivals: { inboxes: [...inboxes], arrivals }, changedAt: at }),
  ];
};
const opened = (...args: Parameters<typeof actionsOf>) => after(...actionsOf(...args));
const shown = async (inboxes: readonly InboxInfo[], ...arrivals: ArrivalInfo[]) => {
  const fixture = await show(InboxPanel, {}, opened(inboxes, ...arrivals));
  const sent: Action[] = [];
  TestBed.inject(MockStore).scannedActions$.subscribe((action) => sent.push(action));
  return { fixture, sent };
};
const decided = (id: string, as: string, password?: string) =>
  ArrivalActions.arrivalDecided({ id, answer: { as, ...(password && { password }) } as never });

describe('the inboxes of a project', () => {
  it('ask what becomes of each file, and say what each can be', async () => {
    const { fixture, sent } = await shown(
      [],
      arrival('S-101_P03', { drawing: 'd' }),
      arrival('new'),
      arrival('late', { path: 'late.pdf', problem }),
    );
    expect(text(fixture)).toContain('S-101_P03.dxf differs from version 2 of S-101.dxf');
    expect(text(fixture)).toContain('new.dxf is a new drawing. from Structures');
    press(fixture, 'Take as version 3');
    press(fixture, 'Add to the drawings');
    enter(all(fixture, 'input[aria-label="Password of late.pdf"]')[0] as HTMLInputElement, 'tern');
    all(fixture, 'button[aria-label="Decline new.dxf"]')[0]!.click();
    expect(sent.slice(-4)).toEqual([
      decided('S-101_P03', 'version'),
      decided('new', 'drawing'),
      decided('late', 'unlock', 'tern'),
      decided('new', 'decline'),
    ]);
  });

  it('take all newer versions in one step, and leave the rest', async () => {
    const { fixture, sent } = await shown([], ...['a', 'b'].map((id) => arrival(id, { drawing: 'd' })), arrival('new'));
    expect(text(fixture)).toContain('2 files in the inboxes are newer versions of drawings.');
    press(fixture, 'Take all as newer versions');
    expect(sent.slice(-2)).toEqual([decided('a', 'version'), decided('b', 'version')]);
  });

  it('say why one cannot be read, and the status of every arrival', async () => {
    const away = { code: 'inbox.away', sentence: 'The server does not answer.', place: {} } as const;
    const { fixture } = await shown(
      [
        { id: 'i', where: null, polledAt: at, problem: away },
        // It is not set up any more.
        { id: 'gone', where: null, polledAt: at, problem: { ...away, sentence: 'Not of interest.' } },
      ],
      arrival('a', { state: 'taken', drawing: 'd', version: 2, by: 'Ada' }),
      arrival('b', { state: 'declined', by: 'Ben' }),
      arrival('c', { state: 'refused', problem: { ...problem, sentence: 'c.dxf is no drawing.' } }),
      arrival('e', { state: 'arriving' }),
      arrival('f', { state: 'known', drawing: 'd', version: 1 }),
    );
    expect(all(fixture, '[role=alert]').map((line) => line.textContent!.replace(/\s+/g, ' ').trim())).toEqual([
      'Structures: The server does not answer.',
    ]);
    const cells = all(fixture, 'td:last-child').map((cell) => cell.textContent!.trim());
    expect(cells).toEqual([
      'taken by Ada as version 2 of S-101.dxf',
      'declined by Ben',
      'c.dxf is no drawing.',
      'still being written',
      'already here, as version 1 of S-101.dxf',
    ]);
  });

  it('show what is being done, and ask nothing of readers', async () => {
    const actions = actionsOf([], arrival('a', { drawing: 'd' }), arrival('b'));
    const busy = await show(InboxPanel, {}, after(...actions, decided('b', 'drawing')));
    const [free, working] = all(busy, 'fx-offer-line');
    expect([free, working].map((line) => line!.querySelector('mat-progress-bar') !== null)).toEqual([false, true]);
    expect([...working!.querySelectorAll('button')].every(({ disabled }) => disabled)).toBe(true);
    TestBed.resetTestingModule();
    const account = { id: 'r', name: 'Ren', email: 'ren@office.example', isOwner: false };
    const session = { office: true, account, roles: { [projectInfo.id]: 'reader' as const }, openId: null };
    const reading = await show(InboxPanel, {}, after(...actions, SessionActions.sessionArrived({ session })));
    const words = all(reading, 'fx-offer-line button').map((button) => button.textContent!.trim());
    expect(words).toEqual(['See what changes']);
  });

  it('are set up in the settings, where each is and what is wrong with it', async () => {
    const fixture = await show(
      InboxesPanel,
      {},
      opened([{ id: 'i', where: '/srv/inbox', polledAt: at, problem: null }]),
    );
    expect(text(fixture)).toMatch(/Structures: \/srv\/inbox, last checked 2026-12-02 \d\d:00/);
    expect(field(fixture, 'Version mark in file names').value).toBe('');
  });

  it('keep what is stated of them, and nothing else', () => {
    const inbox = { id: 'i', name: 'Structures', server: 's', folder: 'in', takes: 'versions' } as const;
    expect(inboxOf(inboxRow(inbox))).toEqual(inbox);
    expect(inboxOf(inboxRow({ id: 'i', name: 'Here' }))).toEqual({ id: 'i', name: 'Here' });
  });
});
