import { HttpErrorResponse } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import type { Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import { of, Subject, throwError } from 'rxjs';
import { MOST_COMPOSED, type SheetFacts } from '@folvex/contract';
import { ComposedActions, type PageVersion } from '../../src/state/composed/composed.actions';
import { composePages } from '../../src/state/composed/composed.effects';
import { composedFeature } from '../../src/state/composed/composed.reducer';
import { NoticeActions } from '../../src/state/notices/notices.actions';
import { ProjectActions } from '../../src/state/project/project.actions';
import { runEffect } from '../support/effects';
import { after } from '../support/state';

const facts = { pictures: [] } as unknown as SheetFacts;
const page = (id: string, version = '1'): PageVersion => ({ id, version });
const wanted = (...pages: PageVersion[]): Action => ComposedActions.pagesWanted({ pages });
const answer = (_: string, ids: readonly string[]) => of(Object.fromEntries(ids.map((id) => [id, facts])));

describe('composed pages', () => {
  it('are asked for many at a time', () => {
    const asked: number[] = [];
    const pages = Array.from({ length: MOST_COMPOSED + 5 }, (_, i) => page(`s${i}`));
    const api = { composedSheets: (_: string, ids: readonly string[]) => (asked.push(ids.length), answer(_, ids)) };
    expect(runEffect(composePages, api, wanted(...pages))).toHaveLength(2);
    expect(asked).toEqual([MOST_COMPOSED, 5]);
  });

  it('on their way are not asked for again; a newer version is', () => {
    const asked: string[] = [];
    const never = new Subject<Record<string, SheetFacts>>();
    const composedSheets = (_: string, ids: readonly string[]) => (asked.push(...ids), never);
    runEffect(
      composePages,
      { composedSheets },
      wanted(page('a')),
      wanted(page('a'), page('b')),
      wanted(page('a', '2')),
    );
    expect(asked).toEqual(['a', 'b', 'a']);
  });

  it('are the latest ones, whichever answer comes first', () => {
    const newer = { pictures: [], warnings: [] } as unknown as SheetFacts;
    const answers = [new Subject<Record<string, SheetFacts>>(), new Subject<Record<string, SheetFacts>>()] as const;
    let asked = 0;
    const api = { composedSheets: () => answers[asked++]! };
    const arrived = runEffect(composePages, api, wanted(page('a', '1')), wanted(page('a', '2'))) as Action[];
    answers[1].next({ a: newer });
    answers[1].complete();
    answers[0].next({ a: facts });
    answers[0].complete();
    expect(after(...arrived).composed.pages).toEqual({ a: { version: '2', facts: newer } });
  });

  it('stay as they are known where an answer for a version comes that is no longer wanted', () => {
    const late = new Subject<Record<string, SheetFacts>>();
    const known = ComposedActions.pagesArrived({ pages: [page('a', '1')], facts: { a: facts } });
    const api = { composedSheets: () => late };
    const arrived = runEffect(composePages, api, known, wanted(page('a', '2')), wanted(page('a', '1'))) as Action[];
    late.next({ a: { pictures: [] } as unknown as SheetFacts });
    expect(after(known, ...arrived).composed.pages).toEqual({ a: { version: '1', facts } });
  });

  it('that are known in this version are not asked for', () => {
    const composedSheets = jest.fn(answer);
    const known = ComposedActions.pagesArrived({ pages: [page('a')], facts: { a: facts } });
    runEffect(composePages, { composedSheets }, known, wanted(page('a')));
    expect(composedSheets).not.toHaveBeenCalled();
  });

  it('that a package adds are asked for one by one', () => {
    const asked: string[][] = [];
    const addedPageFacts = (...of: string[]) => (asked.push(of), new Subject<SheetFacts>());
    runEffect(composePages, { addedPageFacts }, wanted({ ...page('index'), addedBy: 'p' }));
    expect(asked).toEqual([['project', 'p', 'index']]);
  });

  it('that cannot be fetched are told, and asked for again when they are wanted again', () => {
    let away = true;
    const failed = throwError(() => new HttpErrorResponse({ status: 0 }));
    const composedSheets = (_: string, ids: readonly string[]) => {
      const now = away ? failed : answer(_, ids);
      away = false;
      return now;
    };
    const types = (runEffect(composePages, { composedSheets }, wanted(page('a')), wanted(page('a'))) as Action[]).map(
      ({ type }) => type,
    );
    expect(types).toEqual([NoticeActions.requestRefused.type, ComposedActions.pagesArrived.type]);
  });

  it('of a project that is no longer open are dropped', () => {
    const late = new Subject<Record<string, SheetFacts>>();
    const dispatched = runEffect(composePages, { composedSheets: () => late }, wanted(page('a')));
    TestBed.inject(MockStore).setState(after(ProjectActions.projectOpened({ projectId: 'other' })));
    late.next({ a: facts });
    expect(dispatched).toEqual([]);
  });

  it('that the server could not compose are remembered as such', () => {
    const state = after(ComposedActions.pagesArrived({ pages: [page('a'), page('b')], facts: { a: facts } }));
    expect(composedFeature.selectPages(state)).toEqual({
      a: { version: '1', facts },
      b: { version: '1', facts: null },
    });
    const opened = after(
      ComposedActions.pagesArrived({ pages: [page('a')], facts: {} }),
      ProjectActions.projectOpened({ projectId: 'x' }),
    );
    expect(composedFeature.selectPages(opened)).toEqual({});
  });
});
