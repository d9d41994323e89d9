import { TestBed } from '@angular/core/testing';
import type { ScheduleInfo } from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';
import { SchedulePanel } from '../../../src/places/package/delivery/schedule-panel';
import { LookupActions } from '../../../src/state/lookups/lookups.actions';
import { ProjectActions } from '../../../src/state/project/project.actions';
import { momentInWords } from '../../../src/ui/words';
import { enter, field } from '../../support/panels';
import { show, text } from '../../support/parts';
import { after } from '../../support/state';

const pack = { id: 'p', name: 'Permit', publishes: 'friday' } as unknown as SheetPackage;
const due = '2026-12-04T15:00:00Z';
const told: ScheduleInfo = { next: [due], zone: 'UTC', quietMinutes: 10, last: null };

async function shown(change: Partial<SheetPackage>, answer?: ScheduleInfo) {
  const one = { ...pack, ...change };
  const settings = [one.publishes, one.publishAt, one.pausedUntil];
  const query = { project: '2617', pack: 'p', settings, after: 'r' };
  const key = `schedule ${JSON.stringify(query)}`;
  const state = after(
    ProjectActions.projectOpened({ projectId: '2617' }),
    ...(answer
      ? [LookupActions.lookupAskedFor({ key, kind: 'schedule', query }), LookupActions.answerArrived({ key, answer })]
      : []),
  );
  const fixture = await show(SchedulePanel, { pack: one, run: 'r' }, state);
  const changes: unknown[] = [];
  fixture.componentInstance.changed.subscribe((made) => changes.push(made));
  return { fixture, changes };
}

describe('the schedule of a package', () => {
  it('says when it publishes next, and what came of the last time', async () => {
    const { fixture } = await shown({}, told);
    expect(text(fixture)).toContain(`Next: ${momentInWords(due)}.`);
    TestBed.resetTestingModule();
    const last = { due, at: due, run: null, sentence: 'A-101 has no title.' };
    expect(text((await shown({}, { ...told, last })).fixture)).toContain(
      `Not published on ${momentInWords(due)}: A-101 has no title.`,
    );
    TestBed.resetTestingModule();
    const good = { ...last, run: 'r', sentence: null };
    expect(text((await shown({}, { ...told, last: good })).fixture)).toContain(
      `Published as due on ${momentInWords(due)}.`,
    );
  });

  it('takes a time of day, and nothing else', async () => {
    const { fixture, changes } = await shown({}, told);
    enter(field(fixture, 'At'), 'noon');
    await fixture.whenStable();
    expect(changes).toEqual([]);
    expect(text(fixture)).toContain('Type a time as HH:MM.');
    enter(field(fixture, 'At'), '08:30');
    expect(changes).toEqual([{ publishAt: '08:30' }]);
  });

  it('asks for no time where a change decides, and for nothing where it is done by hand', async () => {
    const { fixture } = await shown({ publishes: 'change' }, { ...told, next: [], quietMinutes: 15 });
    expect(text(fixture)).toContain('15 minutes after the last change');
    expect(text(fixture)).not.toContain('At');
    TestBed.resetTestingModule();
    const { publishes: _, ...byHand } = pack;
    const manual = await show(
      SchedulePanel,
      { pack: byHand as SheetPackage, run: '' },
      after(ProjectActions.projectOpened({ projectId: '2617' })),
    );
    expect(text(manual)).not.toContain('Paused until');
  });

  it('asks who is told, from whom and by which server, and says who could not be', async () => {
    const { fixture, changes } = await shown({}, told);
    enter(field(fixture, 'Email the result to'), 'site@quay.example');
    expect(changes).toEqual([{ tellTo: 'site@quay.example' }]);
    expect(text(fixture)).not.toContain('Mail server');
    TestBed.resetTestingModule();
    const last = {
      due,
      at: due,
      run: 'r',
      sentence: null,
      untold: 'The result could not be emailed to gone@quay.example: no such mailbox.',
    };
    const { fixture: more, changes: later } = await shown({ tellTo: 'gone@quay.example' }, { ...told, last });
    expect(text(more)).toContain('The result could not be emailed to gone@quay.example: no such mailbox.');
    expect(text(more)).toContain('Mail server');
    enter(field(more, 'From'), 'plans@office.example');
    expect(later).toEqual([{ tellFrom: 'plans@office.example' }]);
  });
});
