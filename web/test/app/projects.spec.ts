import { TestBed } from '@angular/core/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatDialog } from '@angular/material/dialog';
import { MatDialogHarness } from '@angular/material/dialog/testing';
import { MatMenuHarness } from '@angular/material/menu/testing';
import { MatProgressBarHarness } from '@angular/material/progress-bar/testing';
import type { Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import { firstValueFrom } from 'rxjs';
import type { ProjectSummary } from '@folvex/contract';
import { Projects } from '../../src/app/projects';
import { PresenceActions } from '../../src/state/presence/presence.actions';
import { SessionActions } from '../../src/state/session/session.actions';
import { ProjectActions } from '../../src/state/project/project.actions';
import { enter, field, press } from '../support/panels';
import { all, show, text } from '../support/parts';
import { after, type State } from '../support/state';

const quay: ProjectSummary = {
  ...{ id: 'quay', number: '2617', name: 'Tern Quay', client: 'Harbour board', cover: null, removedAt: null },
  ...{ sheets: 13, drawings: 1, packages: 2 },
  lastRun: { packageName: 'Permit', state: 'done', at: '2026-11-28T10:00:00.000Z' },
};
const listed = (...projects: ProjectSummary[]): State => after(ProjectActions.projectsArrived({ projects }));

async function shown(state: State) {
  const fixture = await show(Projects, {}, state);
  const sent: Action[] = [];
  TestBed.inject(MockStore).scannedActions$.subscribe((action) => sent.push(action));
  return { fixture, sent };
}

describe('the first page', () => {
  it('shows each project with what it holds and its last run', async () => {
    const { fixture } = await shown(listed(quay, { ...quay, id: 'b', name: 'Boat shed', lastRun: null }));
    expect(text(fixture)).toContain('13 sheets · 1 drawing · 2 packages');
    expect(text(fixture)).toContain('Permit published');
    expect(text(fixture)).toContain('Not published yet');
    expect(all(fixture, 'a.name').map((link) => link.getAttribute('href'))).toEqual(['/projects/quay', '/projects/b']);
  });

  it('shows who has each project open, this person first', async () => {
    const people = [
      { id: 'ben', name: 'Ben', sheet: null },
      { id: 'ada', name: 'Ada', sheet: null },
    ];
    const state = after(
      ProjectActions.projectsArrived({ projects: [quay] }),
      PresenceActions.everybodyArrived({ byProject: { quay: people } }),
      PresenceActions.personRemembered({ id: 'ada', name: 'Ada' }),
    );
    expect(text((await shown(state)).fixture)).toContain('Open now: you and Ben');
  });

  it('is not empty while it loads, and says what to do where it is', async () => {
    expect(text((await shown(after())).fixture)).not.toContain('No project yet');
    TestBed.resetTestingModule();
    expect(text((await shown(listed())).fixture)).toContain('No project yet');
  });

  it('says why there is no list, and tries again', async () => {
    const problem = { code: 'offline' as const, sentence: 'The server cannot be reached.', place: {} };
    const { fixture, sent } = await shown(after(ProjectActions.projectsDidNotArrive({ problem })));
    expect(all(fixture, '[role=alert]')[0]!.textContent).toContain('The server cannot be reached.');
    expect(text(fixture)).not.toContain('No project yet');
    press(fixture, 'Try again');
    expect(sent).toContainEqual(SessionActions.sessionAskedFor());
  });

  it('creates a project once it has a name', async () => {
    const { fixture, sent } = await shown(listed(quay));
    press(fixture, 'New project');
    await fixture.whenStable();
    press(fixture, 'Create project');
    await fixture.whenStable();
    expect(text(fixture)).toContain('A project needs a name.');
    enter(field(fixture, 'Project name'), ' Boat shed ');
    press(fixture, 'Create project');
    const project = { number: '', name: 'Boat shed' };
    expect(sent).toContainEqual(ProjectActions.newProjectAskedFor({ project }));
  });

  it('shows how far an import is, which can be cancelled; another one waits for its end', async () => {
    const asked = ProjectActions.importAskedFor({ archive: new File([], 'quay.zip') });
    const begun = [ProjectActions.projectsArrived({ projects: [quay] }), asked];
    const { fixture, sent } = await shown(after(...begun, ProjectActions.importAdvanced({ share: 0.25 })));
    const loader = TestbedHarnessEnvironment.loader(fixture);
    expect(all(fixture, '[role=status]')[0]!.textContent).toContain('Sending quay.zip');
    expect(await (await loader.getHarness(MatProgressBarHarness)).getValue()).toBe(25);
    expect(await (await loader.getHarness(MatButtonHarness.with({ text: 'Import project' }))).isDisabled()).toBe(true);
    press(fixture, 'Cancel');
    expect(sent).toContainEqual(ProjectActions.importCancelled());
    TestBed.resetTestingModule();
    const read = await shown(after(...begun, ProjectActions.importAdvanced({ share: 1 })));
    expect(text(read.fixture)).toContain('Reading quay.zip');
    TestBed.resetTestingModule();
    const ended = await shown(after(...begun, ProjectActions.importEnded()));
    expect(text(ended.fixture)).not.toContain('quay.zip');
  });

  it('removes a project after a question that says what it holds', async () => {
    const { fixture, sent } = await shown(listed(quay));
    const menu = await TestbedHarnessEnvironment.loader(fixture).getHarness(MatMenuHarness);
    await menu.open();
    await menu.clickItem({ text: 'Remove …' });
    const dialog = await TestbedHarnessEnvironment.documentRootLoader(fixture).getHarness(MatDialogHarness);
    expect(await dialog.getContentText()).toContain('It has 13 sheets, 1 drawing, 2 packages.');
    await (await dialog.getHarness(MatButtonHarness.with({ text: 'Remove project' }))).click();
    await firstValueFrom(TestBed.inject(MatDialog).afterAllClosed);
    expect(sent).toContainEqual(ProjectActions.projectRemovalAskedFor({ projectId: 'quay', removed: true }));
  });

  it('restores a removed project', async () => {
    const removed = { ...quay, removedAt: '2026-11-28T12:00:00.000Z' };
    const { fixture, sent } = await shown(listed(removed));
    expect(all(fixture, 'a.name')).toEqual([]);
    expect(text(fixture)).toMatch(/2617 Tern Quay *removed 2026-11-28/);
    press(fixture, 'Restore');
    expect(sent).toContainEqual(ProjectActions.projectRemovalAskedFor({ projectId: 'quay', removed: false }));
  });
});
