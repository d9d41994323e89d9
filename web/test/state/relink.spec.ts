import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideStore, Store } from '@ngrx/store';
import { Observable, Subject } from 'rxjs';
import type { RelinkPlan } from '@folvex/core';
import type { LinkSurvey } from '../../src/engine/relink-protocol';
import { Relinker, type Relinking } from '../../src/engine/relinker';
import { RelinkActions } from '../../src/state/relink/relink.actions';
import * as relinkEffects from '../../src/state/relink/relink.effects';
import { relinkFeature } from '../../src/state/relink/relink.reducer';
import * as saving from '../../src/state/save-file';
import { REDUCERS } from '../../src/state/store';

jest.mock('../../src/state/save-file', () => ({ saveFile: jest.fn() }));

const SET: LinkSurvey = {
  files: [
    { path: 'TQ_A-101.pdf', targets: ['A-102.pdf'] },
    { path: 'TQ_A-102.pdf', targets: [] },
  ],
  problems: [],
};

/** The store, with a thread that is played by the test. */
function setUp() {
  const looking = new Subject<Relinking<LinkSurvey>>();
  const writing = new Subject<Relinking<Uint8Array<ArrayBuffer>>>();
  const written: RelinkPlan[] = [];
  const relinker = {
    look: (): Observable<Relinking<LinkSurvey>> => looking,
    write: (plan: RelinkPlan) => (written.push(plan), writing),
    end: jest.fn(),
  };
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideStore(REDUCERS),
      provideEffects(relinkEffects),
      { provide: Relinker, useValue: relinker },
    ],
  });
  const store = TestBed.inject(Store);
  const state = store.selectSignal(relinkFeature.selectRelinkState);
  const plan = store.selectSignal(relinkFeature.selectPlan);
  return { store, state, plan, looking, writing, written, relinker };
}

const chosen = RelinkActions.filesChosen({ files: [new File(['x'], 'set.zip')] });

it('reads a set, and plans its links by the rule of its names', () => {
  const { store, state, plan, looking } = setUp();
  store.dispatch(chosen);
  expect(state().work).toEqual({ kind: 'reading', done: 0, all: 0 });
  looking.next({ done: 1, all: 2 });
  expect(state().work).toEqual({ kind: 'reading', done: 1, all: 2 });
  looking.next({ answer: SET });
  expect(state().work).toBeNull();
  store.dispatch(RelinkActions.ruleChanged({ rule: { prefix: 'TQ_' } }));
  expect(plan().links).toEqual([{ file: 'TQ_A-101.pdf', target: 'A-102.pdf', state: 'repaired', to: 'TQ_A-102.pdf' }]);
});

it('takes names from a table', async () => {
  const { store, state } = setUp();
  const text = 'old,new\nA-102.pdf,Roof.pdf';
  const file = { text: () => Promise.resolve(text) } as File;
  store.dispatch(RelinkActions.tableChosen({ file }));
  await new Promise((resolve) => setTimeout(resolve));
  expect(state().table).toContainEqual(['A-102.pdf', 'Roof.pdf']);
  store.dispatch(RelinkActions.tableRemoved());
  expect(state().table).toEqual([]);
});

it('says when a table cannot be read or has no names, and keeps the files and what is known of them', async () => {
  const { store, state, looking } = setUp();
  const damaged = { code: 'relink.damaged' as const, sentence: 'old.pdf cannot be read.', place: {} };
  store.dispatch(chosen);
  looking.next({ answer: { ...SET, problems: [damaged] } });
  for (const text of [() => Promise.reject(new Error('gone')), () => Promise.resolve('a,b\n1,2')]) {
    store.dispatch(RelinkActions.tableChosen({ file: { name: 'names.csv', text } as File }));
    await new Promise((resolve) => setTimeout(resolve));
    expect(state().problems).toMatchObject([damaged, { code: 'relink.table' }]);
    expect(state().problems[1]!.sentence).toMatch(/^names\.csv .*\.$/);
    expect(state().files).toEqual(SET.files);
  }
  const file = { name: 'names.csv', text: () => Promise.resolve('A-102.pdf,Roof.pdf') } as File;
  store.dispatch(RelinkActions.tableChosen({ file }));
  await new Promise((resolve) => setTimeout(resolve));
  expect(state().problems).toEqual([damaged]);
});

it('saves the repaired files', () => {
  const { store, state, looking, writing, written } = setUp();
  store.dispatch(chosen);
  looking.next({ answer: SET });
  store.dispatch(RelinkActions.repairedFilesAskedFor());
  expect(state().work).toEqual({ kind: 'writing', done: 0, all: 2 });
  expect(written[0]!.files.map(({ from }) => from)).toEqual(['TQ_A-101.pdf', 'TQ_A-102.pdf']);
  const bytes = new Uint8Array([1]);
  writing.next({ answer: bytes });
  expect(saving.saveFile).toHaveBeenCalledWith('relinked.zip', 'application/zip', bytes);
  expect(state().work).toBeNull();
  expect(state().files).toEqual(SET.files);
});

it('forgets a set that is dismissed, and hears no more of it', () => {
  const { store, state, looking, relinker } = setUp();
  store.dispatch(chosen);
  store.dispatch(RelinkActions.setDismissed());
  expect(relinker.end).toHaveBeenCalled();
  looking.next({ answer: SET });
  expect(state()).toMatchObject({ files: [], work: null });
});

it('says when the files cannot be read or written, and takes others then', () => {
  const { store, state, looking, writing, relinker } = setUp();
  store.dispatch(chosen);
  looking.next({ answer: SET });
  store.dispatch(RelinkActions.repairedFilesAskedFor());
  writing.error(new Error('out of memory'));
  expect(state()).toMatchObject({ work: null, files: [], problems: [{ code: 'relink.write' }] });
  expect(relinker.end).toHaveBeenCalledTimes(1);
  store.dispatch(chosen);
  expect(state().problems).toEqual([]);
  looking.error(new Error('out of memory'));
  expect(state()).toMatchObject({ work: null, problems: [{ code: 'relink.read' }] });
});
