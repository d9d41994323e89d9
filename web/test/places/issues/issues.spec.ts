import { TestBed } from '@angular/core/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MockStore } from '@ngrx/store/testing';
import type { NewIssue, RunInfo } from '@folvex/contract';
import type { Issue, ProjectFacts } from '@folvex/core';
import { IssuesPlace } from '../../../src/places/issues/issues-place';
import { NewIssuePanel } from '../../../src/places/issues/new-issue-panel';
import { IssueActions } from '../../../src/state/issues/issues.actions';
import { projectFeature } from '../../../src/state/project/project.reducer';
import { selectAllRuns } from '../../../src/state/runs/runs.selectors';
import { enter, field } from '../../support/panels';
import { all, show, text } from '../../support/parts';
import { after } from '../../support/state';

const people = [
  { id: 'r', name: 'Plan room', firm: 'Harbour Trust', mail: 'plans@trust.example', purposes: ['Permit'] },
  { id: 'f', name: 'Fabricator', mail: 'cnc@steel.example', purposes: ['Permit', 'Tender'], formats: ['dxf'] },
];
const facts = { ...{ number: '2617', name: '', client: '', fields: {} }, people } satisfies ProjectFacts;
const run = {
  ...{ id: 'r', state: 'done', packageName: 'Permit', name: null, createdAt: '2026-12-01T10:00:00Z' },
  files: [
    { path: 'A-101.pdf', format: null, sheets: ['a'] },
    { path: 'A-101.dxf', format: 'dxf', sheets: ['a'] },
  ],
  deliveries: [],
} as unknown as RunInfo;
const issue: Issue = {
  ...{ id: 'i', number: 3, date: '2026-12-01', purpose: 'Permit', recipients: ['Plan room', 'Somebody'], remarks: '' },
  ...{ packageName: 'Permit', runId: 'r', sheets: [], files: [] },
};

/** The input under a caption in a dialog. */
function labelled(dialog: Element, caption: string): HTMLInputElement {
  const labels = [...dialog.querySelectorAll('label')];
  return labels.find(({ textContent }) => textContent.trim() === caption)!.control as HTMLInputElement;
}

describe('a new issue', () => {
  it('is proposed to those who get issues for its purpose and are not among the recipients yet', async () => {
    const fixture = await show(NewIssuePanel, { runs: [run], issues: [] });
    const store = TestBed.inject(MockStore);
    store.overrideSelector(projectFeature.selectFacts, facts);
    store.refreshState();
    const made: NewIssue[] = [];
    fixture.componentInstance.made.subscribe((one) => made.push(one));
    const loader = TestbedHarnessEnvironment.loader(fixture);
    const offers = () => loader.getAllHarnesses(MatButtonHarness.with({ text: /^Add / }));
    expect(await offers()).toEqual([]);
    enter(field(fixture, 'Purpose'), 'permit');
    const [offer] = await offers();
    expect(await offer!.getText()).toBe('Add Plan room, Fabricator');
    // Named by their firm.
    enter(field(fixture, 'Recipients'), 'Harbour Trust');
    const [other] = await offers();
    expect(await other!.getText()).toBe('Add Fabricator');
    await other!.click();
    expect(await offers()).toEqual([]);
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Issue' }))).click();
    expect(made).toMatchObject([{ run: 'r', purpose: 'permit', recipients: ['Harbour Trust', 'Fabricator'] }]);
  });
});

describe('an issue', () => {
  it('is emailed to those of its recipients that are known', async () => {
    const state = after(IssueActions.registerArrived({ issues: [issue] }));
    const fixture = await show(IssuesPlace, {}, state);
    const store = TestBed.inject(MockStore);
    store.overrideSelector(projectFeature.selectFacts, facts);
    store.overrideSelector(selectAllRuns, [run]);
    store.refreshState();
    await fixture.whenStable();
    all(fixture, 'th button').at(-1)!.click();
    await fixture.whenStable();
    expect(text(fixture)).toContain('Plan room, Somebody');
    await (
      await TestbedHarnessEnvironment.loader(fixture).getHarness(MatButtonHarness.with({ text: 'Send …' }))
    ).click();
    expect(labelled(document.querySelector('mat-dialog-container')!, 'To').value).toBe('Plan room');
    const dialog = document.querySelector('mat-dialog-container')!;
    enter(labelled(dialog, 'From'), 'drafting@office.example');
    await fixture.whenStable();
    expect(dialog.textContent).not.toContain('gets');
    enter(labelled(dialog, 'To'), 'Plan room, Fabricator');
    await fixture.whenStable();
    expect(dialog.textContent).toContain('cnc@steel.example gets 1 of 2 files.');
    enter(labelled(dialog, 'To'), 'Fabricator, visitor@harbour.example');
    store.overrideSelector(projectFeature.selectFacts, { ...facts, people: [{ ...people[1]!, formats: ['png'] }] });
    store.refreshState();
    await fixture.whenStable();
    expect(dialog.textContent).toContain('cnc@steel.example gets none of the files.');
  });
});
