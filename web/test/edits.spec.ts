import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideStore, Store } from '@ngrx/store';
import { of, Subject, throwError, type Observable } from 'rxjs';
import type { ProjectInfo, SheetChange } from '@folvex/contract';
import type { Sheet } from '@folvex/core';
import { Api } from '../src/state/api';
import * as effects from '../src/state/edit.effects';
import { EditActions, ProjectActions, SheetActions } from '../src/state/project.actions';
import { projectFeature } from '../src/state/project.reducer';
import { selectEditedSheets, selectSheetEntities, selectUnsent } from '../src/state/project.selectors';
import { SheetEditor } from '../src/state/sheet-editor';
import { sheet } from './sheet';

const first: Sheet = { ...sheet('1:50'), id: 'a', title: 'Quay' };
const info = {
  id: 'project',
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
  const sent: { id: string; change: SheetChange; answer: Subject<Sheet> }[] = [];
  const steps: string[] = [];
  const api: Partial<Api> = {
    changeSheet: (_project, id, change) => {
      const answer = new Subject<Sheet>();
      sent.push({ id, change, answer });
      return answer;
    },
    step: (_project, way) => {
      steps.push(way);
      return of({ words: 'title of A-101', sheets: [first], removed: [], history: { undo: null, redo: 'x' } });
    },
    project: () => of({ ...info, sheets: [{ ...first, title: 'Theirs' }] }),
    history: () => of({ undo: 'title of A-101', redo: null }),
    removeSheets: (_project, ids): Observable<{ ids: string[] }> => of({ ids }),
    copySheet: () => throwError(() => new HttpErrorResponse({ status: 500 })),
  };
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideStore({ [projectFeature.name]: projectFeature.reducer }),
      provideEffects(effects),
      { provide: Api, useValue: api },
    ],
  });
  const store = TestBed.inject(Store);
  store.dispatch(ProjectActions.projectArrived({ info }));
  const answer = (n: number, saved: Partial<Sheet>): void => {
    sent[n]!.answer.next({ ...first, ...saved });
    sent[n]!.answer.complete();
  };
  const shown = (): string => store.selectSignal(selectEditedSheets)()['a']!.title;
  const saved = (): string => store.selectSignal(selectSheetEntities)()['a']!.title;
  const state = store.selectSignal(projectFeature.selectProjectState);
  return { editor: TestBed.inject(SheetEditor), store, sent, steps, answer, shown, saved, state };
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
});
