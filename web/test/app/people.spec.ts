import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatDialogHarness } from '@angular/material/dialog/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import type { Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import type { Person, ProjectInfo } from '@folvex/contract';
import { People } from '../../src/app/people';
import { PresenceActions } from '../../src/state/presence/presence.actions';
import { ProjectActions } from '../../src/state/project/project.actions';
import { peopleInWords } from '../../src/ui/people';
import { projectInfo } from '../support/effects';
import { show, text } from '../support/parts';
import { sheet } from '../support/sheet';
import { news } from '../support/news';
import { after } from '../support/state';

const person = (name: string, of: string | null = null): Person => ({ id: name, name, sheet: of });
const info: ProjectInfo = { ...projectInfo, sheets: [sheet('1:50')] };

const own = PresenceActions.personRemembered({ id: 'own', name: '' });

async function shown(...people: Person[]) {
  const arrived = PresenceActions.newsArrived({ news: news({ people }) });
  const fixture = await show(People, {}, after(own, ProjectActions.projectArrived({ info }), arrived));
  const sent: Action[] = [];
  TestBed.inject(MockStore).scannedActions$.subscribe((action) => sent.push(action));
  const loader = TestbedHarnessEnvironment.documentRootLoader(fixture);
  await (await loader.getHarness(MatButtonHarness)).click();
  return { fixture, sent, loader, dialog: await loader.getHarness(MatDialogHarness) };
}

describe('the people in a project', () => {
  it('are named in the header; the dialog tells which sheet each is viewing', async () => {
    const { fixture, dialog } = await shown(person('Ada', 'a'), person(''));
    expect(text(fixture)).toContain('Ada and Someone');
    expect(await dialog.getContentText()).toMatch(/Ada is viewing\s+A-101 Plan/);
  });

  it('are nobody else where nobody else has it open', async () => {
    const { dialog } = await shown();
    expect(await dialog.getContentText()).toContain('Nobody else has this project open.');
  });

  it('know this person by the name that is entered', async () => {
    const { sent, loader } = await shown();
    const input = await (await loader.getHarness(MatInputHarness)).host();
    await input.setInputValue('  Ada ');
    await input.dispatchEvent('input');
    await input.dispatchEvent('change');
    expect(sent).toContainEqual(PresenceActions.personNamed({ name: 'Ada' }));
  });

  it.each([
    [[], ''],
    [['Ada'], 'Ada'],
    [['Ada', ' '], 'Ada and Someone'],
    [['Ada', 'Ben', 'Cy'], 'Ada, Ben and Cy'],
    [['Ada', 'Ben', 'Cy', 'Di'], 'Ada, Ben and 2 others'],
  ])('%j are in words: %s', (names, words) => {
    expect(peopleInWords(names.map((name) => ({ name })))).toBe(words);
  });
});
