import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Action } from '@ngrx/store';
import { MockStore, provideMockStore } from '@ngrx/store/testing';
import { of, throwError } from 'rxjs';
import type { SpaceInfo } from '@folvex/contract';
import { LookupActions } from '../../src/state/lookups/lookups.actions';
import { lookUp } from '../../src/state/lookups/lookups.effects';
import { Lookups } from '../../src/state/lookups/lookups';
import { lookupsFeature } from '../../src/state/lookups/lookups.reducer';
import { runEffect } from '../support/effects';
import { after } from '../support/state';

const query = { drawing: 'd', space: 0, hash: 'h' };
const key = `space ${JSON.stringify(query)}`;
const asked = LookupActions.lookupAskedFor({ key, kind: 'space', query });
const info = { visible: true } as SpaceInfo;
const problem = { code: 'drawing.gone' as const, sentence: 'There is no such drawing.', place: {} };

describe('the effect', () => {
  it('fetches the answer, or says why there is none', () => {
    expect(runEffect(lookUp, { space: () => of(info) }, asked)).toEqual([
      LookupActions.answerArrived({ key, answer: info }),
    ]);
  });

  it('says why there is no answer', () => {
    const space = () => throwError(() => new HttpErrorResponse({ status: 404, error: { problem } }));
    expect(runEffect(lookUp, { space }, asked)).toEqual([LookupActions.lookupRefused({ key, problem })]);
  });
});

describe('the store', () => {
  it('keeps the latest sixty', () => {
    const many = Array.from({ length: 70 }, (_, i) =>
      LookupActions.lookupAskedFor({ key: `k${i}`, kind: 'space', query }),
    );
    const kept = lookupsFeature.selectEntries(after(...many)).map((entry) => entry.key);
    expect([kept.length, kept[0], kept.at(-1)]).toEqual([60, 'k10', 'k69']);
  });

  it('moves a lookup that is asked for again to the end', () => {
    const one = LookupActions.lookupAskedFor({ key: 'one', kind: 'space', query });
    expect(lookupsFeature.selectEntries(after(one, asked, one)).map((entry) => entry.key)).toEqual([key, 'one']);
  });
});

describe('a component', () => {
  function look(...before: Action[]) {
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), provideMockStore({ initialState: after(...before) })],
    });
    const store = TestBed.inject(MockStore);
    const sent: Action[] = [];
    store.scannedActions$.subscribe((action) => sent.push(action));
    const wanted = signal<typeof query | undefined>(query);
    const lookup = TestBed.runInInjectionContext(() => TestBed.inject(Lookups).of('space', wanted));
    TestBed.tick();
    const asks = (): Action[] => sent.filter(({ type }) => type === LookupActions.lookupAskedFor.type);
    return { store, wanted, lookup, asks };
  }

  it('asks for what is not known, and shows it once it is', () => {
    const { store, lookup, asks } = look();
    expect(asks()).toEqual([asked]);
    expect([lookup.answer(), lookup.loading()]).toEqual([null, true]);
    store.setState(after(asked, LookupActions.answerArrived({ key, answer: info })));
    store.refreshState();
    TestBed.tick();
    expect([lookup.answer(), lookup.loading(), asks().length]).toEqual([info, false, 1]);
  });

  it('does not ask for what is known, but does again for what failed', () => {
    expect(look(asked, LookupActions.answerArrived({ key, answer: info })).asks()).toEqual([]);
    TestBed.resetTestingModule();
    const { asks, lookup } = look(asked, LookupActions.lookupRefused({ key, problem }));
    expect([asks().length, lookup.problem()]).toEqual([1, 'There is no such drawing.']);
  });

  it('follows its query, and asks nothing without one', () => {
    const { wanted, asks, lookup } = look();
    wanted.set({ ...query, space: 1 });
    TestBed.tick();
    expect(asks()).toHaveLength(2);
    wanted.set(undefined);
    TestBed.tick();
    expect([asks().length, lookup.loading()]).toEqual([2, false]);
  });
});
