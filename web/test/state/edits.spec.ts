import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideStore, Store } from '@ngrx/store';
import { of, Subject, throwError } from 'rxjs';
import type { EditAnswer, ProjectInfo, SettingsChange, SheetChange } from '@folvex/contract';
import type { ProjectSettings, Recipe, Sheet } from '@folvex/core';
import { Api } from '../../src/state/api';
import * as effects from '../../src/state/edits/edits.effects';
import { EditActions } from '../../src/state/edits/edits.actions';
import { ProjectActions, SettingsActions } from '../../src/state/project/project.actions';
import { selectSettingsUnsent } from '../../src/state/project/project.selectors';
import { SheetEditor } from '../../src/state/sheets/sheet-editor';
import { SheetActions } from '../../src/state/sheets/sheets.actions';
import { selectEditedSheets, selectSheetEntities, selectUnsent } from '../../src/state/sheets/sheets.selectors';
import { REDUCERS } from '../../src/state/store';
import { answerOf } from '../support/answers';
import { whole, type State } from '../support/state';
import { sheet } from '../support/sheet';

const first: Sheet = { ...sheet('1:50'), id: 'a', title: 'Quay' };
const info = {
  id: 'project',
  project: { number: '1', name: 'Quay', client: '', fields: {} },
  groups: [],
  drawings: [],
  sheets: [first],
  packages: [],
  recipes: [],
  runs: [],
  history: { undo: null, redo: null },
} as unknown as ProjectInfo;

/** The store with the effects of edits, against a server whose answers are given when a test wants them. */
function edits() {
  const sent: { id: string; change: SheetChange; answer: Subject<EditAnswer> }[] = [];
  const settings: { change: SettingsChange; answer: Subject<EditAnswer> }[] = [];
  const typefaces: { name: string; answer: Subject<EditAnswer> }[] = [];
  const steps: string[] = [];
  const api: Partial<Api> = {
    changeSheet: (_project, id, change) => {
      const answer = new Subject<EditAnswer>();
      sent.push({ id, change, answer });
      return answer;
    },
    step: (_project, way) => {
      steps.push(way);
      return of(answerOf({ sheets: [first], history: { undo: null, redo: 'x' } }));
    },
    changeSettings: (_project, change) => {
      const answer = new Subject<EditAnswer>();
      settings.push({ change, answer });
      return answer;
    },
    project: () => of({ ...info, sheets: [{ ...first, title: 'Theirs' }] }),
    addTypefaces: (_project, file) => {
      const answer = new Subject<EditAnswer>();
      typefaces.push({ name: file.name, answer });
      return answer;
    },
    removeSheets: (_project, ids) => of(answerOf({ removed: ids })),
    copySheet: () => throwError(() => new HttpErrorResponse({ status: 500 })),
  };
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideStore(REDUCERS),
      provideEffects(effects),
      { provide: Api, useValue: api },
    ],
  });
  const store = TestBed.inject(Store);
  store.dispatch(ProjectActions.projectArrived({ info }));
  const answer = (n: number, saved: Partial<Sheet>): void => {
    sent[n]!.answer.next(answerOf({ sheets: [{ ...first, ...saved }] }));
    sent[n]!.answer.complete();
  };
  const shown = (): string => store.selectSignal(selectEditedSheets)()['a']!.title;
  const saved = (): string => store.selectSignal(selectSheetEntities)()['a']!.title;
  const stored = store.selectSignal((all: State) => all);
  const state = () => whole(stored());
  return { editor: TestBed.inject(SheetEditor), store, sent, settings, typefaces, steps, answer, shown, saved, state };
}

describe('an edit of a sheet', () => {
  it('is shown at once, with what it was seen as; the saved sheet follows with the answer', () => {
    const { editor, sent, answer, shown, saved, state } = edits();
    editor.change('a', { title: 'Pier' });
    expect([shown(), saved(), state().editing]).toEqual(['Pier', 'Quay', 1]);
    expect(sent[0]!.change).toEqual({ title: 'Pier', was: { title: 'Quay' } });
    answer(0, { title: 'Pier' });
    expect([shown(), saved(), state().editing, state().drafts]).toEqual(['Pier', 'Pier', 0, {}]);
    expect(state().history).toEqual({ undo: 'title of A-101', redo: null });
  });

  it('behind another of the same field counts on that one, and goes after it', () => {
    const { editor, sent, answer, shown, store, steps } = edits();
    editor.change('a', { title: 'Pier' });
    editor.change('a', { title: 'Jetty' });
    store.dispatch(EditActions.stepAskedFor({ way: 'undo' }));
    expect([sent.length, steps, shown()]).toEqual([1, [], 'Jetty']);
    answer(0, { title: 'Pier' });
    // What was typed last is still shown while it is on its way.
    expect(shown()).toBe('Jetty');
    expect(sent[1]!.change).toEqual({ title: 'Jetty', was: { title: 'Pier' } });
    answer(1, { title: 'Jetty' });
    expect(steps).toEqual(['undo']);
    expect(shown()).toBe('Quay');
  });

  it('that is refused shows what is there, and why', () => {
    const { editor, sent, shown, state } = edits();
    editor.change('a', { title: 'Pier' });
    const problem = { code: 'sheet.changed', sentence: 'Changed meanwhile.', place: {} };
    sent[0]!.answer.error(new HttpErrorResponse({ status: 409, error: { problem } }));
    expect([shown(), state().refusal, state().editing]).toEqual(['Theirs', problem, 0]);
  });

  it('that could not be sent is kept, and goes with the next one or when asked', () => {
    const { editor, sent, answer, shown, store, state } = edits();
    editor.change('a', { title: 'Pier' });
    sent[0]!.answer.error(new HttpErrorResponse({ status: 0 }));
    expect([shown(), store.selectSignal(selectUnsent)()]).toEqual(['Pier', ['a']]);
    editor.change('a', { group: 'details' });
    expect(sent[1]!.change).toEqual({
      title: 'Pier',
      group: 'details',
      was: { title: 'Quay', group: first.group },
    });
    sent[1]!.answer.error(new HttpErrorResponse({ status: 0 }));
    editor.sendAgain();
    expect(sent[2]!.change).toMatchObject({ title: 'Pier', group: 'details' });
    answer(2, { title: 'Pier', group: 'details' });
    expect([shown(), state().drafts]).toEqual(['Pier', {}]);
  });
});

describe('edits of settings', () => {
  const recipe = (colour: Recipe['colour'], weightFactor?: number): Recipe => ({
    ...{ id: 'r', name: 'Print', colour, layers: 'none' },
    ...(weightFactor !== undefined && { weightFactor }),
  });
  const asSaved = (over: Partial<ProjectSettings>): Partial<EditAnswer> => ({
    settings: { project: info.project, groups: [], recipes: [], ...over },
  });
  const reply = ({ answer }: { answer: Subject<EditAnswer> }, over: Partial<ProjectSettings>): void => {
    answer.next(answerOf(asSaved(over)));
    answer.complete();
  };

  it('are shown at once; one made before the last is answered goes on top of that one', () => {
    const { store, settings, state } = edits();
    const change = (recipes: Recipe[]): void =>
      store.dispatch(SettingsActions.settingsEdited({ change: { recipes, was: { recipes: state().recipes } } }));
    change([recipe('greys')]);
    change([recipe('greys', 1.4)]);
    expect([state().recipes, settings.length, state().editing]).toEqual([[recipe('greys', 1.4)], 1, 2]);
    expect(settings[0]!.change).toEqual({ recipes: [recipe('greys')], was: { recipes: [] } });
    // The server answers slowly; meanwhile a third edit is made.
    change([recipe('black', 1.4)]);
    reply(settings[0]!, { recipes: [recipe('greys')] });
    expect(state().recipes).toEqual([recipe('black', 1.4)]);
    expect(settings[1]!.change).toEqual({
      recipes: [recipe('black', 1.4)],
      was: { recipes: [recipe('greys')] },
    });
    reply(settings[1]!, { recipes: [recipe('black', 1.4)] });
    expect([state().recipes, state().editing, settings.length]).toEqual([[recipe('black', 1.4)], 0, 2]);
    expect(store.selectSignal(selectSettingsUnsent)()).toBe(false);
  });

  it('of different fields do not conflict with each other', () => {
    const { store, settings, state } = edits();
    store.dispatch(SettingsActions.settingsEdited({ change: { project: { client: 'Harbour trust' } } }));
    store.dispatch(SettingsActions.settingsEdited({ change: { project: { name: 'Pier' } } }));
    reply(settings[0]!, { project: { ...info.project, client: 'Harbour trust' } });
    expect(settings[1]!.change).toEqual({ project: { name: 'Pier' }, was: { project: { name: 'Quay' } } });
    reply(settings[1]!, { project: { ...info.project, client: 'Harbour trust', name: 'Pier' } });
    expect([state().facts!.client, state().facts!.name, state().editing]).toEqual(['Harbour trust', 'Pier', 0]);
  });

  it('that could not be sent stay in sight as not saved, and go with the next edit', () => {
    const { store, settings, state } = edits();
    store.dispatch(SettingsActions.settingsEdited({ change: { project: { client: 'Trust' } } }));
    settings[0]!.answer.error(new HttpErrorResponse({ status: 0 }));
    expect([state().facts!.client, store.selectSignal(selectSettingsUnsent)()]).toEqual(['Trust', true]);
    store.dispatch(SettingsActions.settingsEdited({ change: { project: { name: 'Pier' } } }));
    expect(settings[1]!.change.project).toEqual({ client: 'Trust', name: 'Pier' });
  });

  it('that are refused show what is there, and why', () => {
    const { store, settings, state } = edits();
    store.dispatch(SettingsActions.settingsEdited({ change: { project: { name: 'Pier' } } }));
    const problem = { code: 'settings.changed', sentence: 'Somebody else was quicker.', place: {} };
    settings[0]!.answer.error(new HttpErrorResponse({ status: 409, error: { problem } }));
    expect([state().facts!.name, state().refusal, state().editing]).toEqual(['Quay', problem, 0]);
    expect(store.selectSignal(selectSettingsUnsent)()).toBe(false);
  });

  it('wait for edits of sheets before them, and those after wait for them', () => {
    const { editor, sent, answer, settings, store } = edits();
    editor.change('a', { title: 'Pier' });
    store.dispatch(SettingsActions.settingsEdited({ change: { project: { name: 'Pier' } } }));
    editor.change('a', { title: 'Jetty' });
    expect([sent.length, settings.length]).toEqual([1, 0]);
    answer(0, { title: 'Pier' });
    expect([sent.length, settings.length]).toEqual([1, 1]);
    reply(settings[0]!, { project: { ...info.project, name: 'Pier' } });
    expect(sent).toHaveLength(2);
  });
});

describe('other edits', () => {
  it('remove sheets, step back, and end well or not', () => {
    const { store, state } = edits();
    store.dispatch(SheetActions.copyAskedFor({ sheetId: 'a' }));
    expect([state().refusal?.code, state().editing]).toEqual(['unknown', 0]);
    store.dispatch(EditActions.stepAskedFor({ way: 'undo' }));
    expect([state().lastStep, state().history.redo, state().refusal]).toEqual([
      { way: 'undo', words: 'title of A-101' },
      'x',
      null,
    ]);
    store.dispatch(SheetActions.removalAskedFor({ ids: ['a'] }));
    expect([state().sheets.ids, state().lastStep]).toEqual([[], null]);
  });

  it('add typefaces, which are on the way until they are there or refused', () => {
    const { store, typefaces, state } = edits();
    for (const name of ['letter.ttf', 'office.ttc']) {
      store.dispatch(SettingsActions.typefacesSent({ file: new File(['x'], name) }));
    }
    expect(state().typefacesOnTheWay).toEqual(['letter.ttf', 'office.ttc']);
    typefaces[0]!.answer.error(new HttpErrorResponse({ status: 500 }));
    expect([state().typefacesOnTheWay, state().refusal?.code]).toEqual([['office.ttc'], 'unknown']);
    const own = { id: 'office', name: 'Office', file: 'office.ttc', hash: 'ab', asked: [] };
    const settings = { project: { ...info.project, typefaces: [own] }, groups: [], recipes: [] };
    typefaces[1]!.answer.next(answerOf({ settings }));
    typefaces[1]!.answer.complete();
    expect([state().typefacesOnTheWay, state().facts?.typefaces]).toEqual([[], [own]]);
  });
});
