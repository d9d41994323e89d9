import { TestBed } from '@angular/core/testing';
import { MatDialogRef } from '@angular/material/dialog';
import { Router } from '@angular/router';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatAutocompleteHarness } from '@angular/material/autocomplete/testing';
import type { Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import type { ProjectInfo } from '@folvex/contract';
import { QuickSearch } from '../../src/app/quick-search';
import { EditActions } from '../../src/state/edits/edits.actions';
import { ProjectActions } from '../../src/state/project/project.actions';
import { RunActions } from '../../src/state/runs/runs.actions';
import { projectInfo } from '../support/effects';
import { all, show, text } from '../support/parts';
import { sheet } from '../support/sheet';
import { after } from '../support/state';

const info: ProjectInfo = {
  ...projectInfo,
  sheets: [{ ...sheet('1:50'), id: 's1', number: 'A-101', title: 'Ground floor plan' }],
  history: { undo: 'title of A-101', redo: null },
};

async function opened(state = after(ProjectActions.projectArrived({ info }))) {
  const dialog = { close: jest.fn() };
  const fixture = await show(QuickSearch, {}, state, [{ provide: MatDialogRef, useValue: dialog }]);
  const went: string[] = [];
  jest.spyOn(TestBed.inject(Router), 'navigate').mockImplementation((commands) => {
    went.push(commands.join('/'));
    return Promise.resolve(true);
  });
  const sent: Action[] = [];
  TestBed.inject(MockStore).scannedActions$.subscribe((action) => sent.push(action));
  const field = all(fixture, 'input')[0] as HTMLInputElement;
  const type = (value: string): void => {
    field.value = value;
    field.dispatchEvent(new Event('input'));
  };
  const enter = (): void => void field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
  return { fixture, dialog, went, sent, type, enter };
}

describe('the quick search', () => {
  it('lists places, the last edit to undo, and what can be published', async () => {
    const { fixture } = await opened();
    const list = await TestbedHarnessEnvironment.loader(fixture).getHarness(MatAutocompleteHarness);
    await list.focus();
    const words = await Promise.all((await list.getOptions()).map((option) => option.getText()));
    expect(words).toEqual([
      ...['Gather', 'Sheets', 'Pens', 'Package', 'Light table', 'Issues', 'Settings', 'Projects'].map(
        (name) => `${name} place`,
      ),
      'Undo title of A-101 action',
      'Publish Permit action',
    ]);
  });

  it('opens a sheet by a few letters, once, even where the list has not followed the text yet', async () => {
    const { type, enter, went, dialog } = await opened();
    type('ground');
    enter();
    enter();
    expect(went).toEqual(['/projects/project/sheets/s1']);
    expect(dialog.close).toHaveBeenCalledTimes(1);
  });

  it('undoes, and publishes a package where that can be watched', async () => {
    const undo = await opened();
    undo.type('undo');
    undo.enter();
    expect(undo.sent).toContainEqual(EditActions.stepAskedFor({ way: 'undo' }));
    TestBed.resetTestingModule();
    const publish = await opened();
    publish.type('publish');
    publish.enter();
    expect(publish.sent).toContainEqual(RunActions.publishAskedFor({ packageId: 'p' }));
    expect(publish.went).toEqual(['/projects/project/packages/p']);
  });

  it('says that nothing matches, and stays open on Enter', async () => {
    const { fixture, type, enter, dialog } = await opened();
    type('no such thing');
    await fixture.whenStable();
    expect(text(fixture)).toContain('No match.');
    enter();
    expect(dialog.close).not.toHaveBeenCalled();
  });

  it('leads to the projects only where none is open', async () => {
    const { type, enter, went } = await opened(after());
    type('');
    enter();
    expect(went).toEqual(['/']);
  });
});
