import { of, throwError } from 'rxjs';
import { BY_SCHEDULE, type ArrivalInfo, type Arrivals, type DrawingInfo, type RunInfo } from '@folvex/contract';
import { ArrivalActions } from '../../src/state/arrivals/arrivals.actions';
import * as effects from '../../src/state/arrivals/arrivals.effects';
import { arrivalsFeature, selectWaitingArrivals } from '../../src/state/arrivals/arrivals.reducer';
import { DrawingActions } from '../../src/state/drawings/drawings.actions';
import { NoticeActions } from '../../src/state/notices/notices.actions';
import { PresenceActions } from '../../src/state/presence/presence.actions';
import { RunActions } from '../../src/state/runs/runs.actions';
import { fetchRuns } from '../../src/state/runs/runs.effects';
import { endEffects, runEffect } from '../support/effects';
import { news } from '../support/news';
import { after } from '../support/state';

const arrival = (id: string, of: Partial<ArrivalInfo> = {}): ArrivalInfo => ({
  ...{ id, inbox: 'Structures', path: `${id}.dxf`, bytes: 10, at: '2026-12-02T08:00:00.000Z', state: 'waiting' },
  ...{ drawing: null, version: null, offered: null, problem: null, by: null },
  ...of,
});
const arrivals = (...all: ArrivalInfo[]): Arrivals => ({ inboxes: [], arrivals: all });
const came = (...all: ArrivalInfo[]) =>
  ArrivalActions.arrivalsCame({ arrivals: arrivals(...all), changedAt: '2026-12-02T08:00:00.000Z' });
const changed = (arrivalsChangedAt: string | null) =>
  PresenceActions.newsArrived({ news: news({ arrivalsChangedAt }) });
const drawing = { id: 'd', name: 'S-101.dxf', version: 2 } as DrawingInfo;

describe('what came into inboxes', () => {
  it('is fetched when the server says that something has changed, and only then', () => {
    const api = { arrivals: jest.fn(() => of(arrivals(arrival('a')))) };
    expect(runEffect(effects.fetchArrivals, api, changed(null))).toEqual([]);
    endEffects();
    expect(runEffect(effects.fetchArrivals, api, came(), changed('2026-12-02T08:00:00.000Z'))).toEqual([]);
    expect(api.arrivals).not.toHaveBeenCalled();
    endEffects();
    // What was there when the page was opened is no news.
    const changedAt = '2026-12-02T09:00:00.000Z';
    const first = ArrivalActions.arrivalsCame({ arrivals: arrivals(arrival('a')), changedAt });
    expect(runEffect(effects.fetchArrivals, api, changed(changedAt))).toEqual([first]);
  });

  it('is fetched anew for whoever looks at the inboxes', () => {
    const now = arrivals(arrival('a'));
    const done = runEffect(
      effects.refreshArrivals,
      { arrivals: () => of(now) },
      came(),
      ArrivalActions.arrivalsAskedFor(),
    );
    // The next news are compared with the same moment as before.
    expect(done).toEqual([ArrivalActions.arrivalsCame({ arrivals: now, changedAt: '2026-12-02T08:00:00.000Z' })]);
  });

  it('is told while the page is open, once it is complete', () => {
    const api = {
      arrivals: () =>
        of(
          arrivals(arrival('c', { state: 'arriving' }), arrival('b', { state: 'taken' }), arrival('a'), arrival('old')),
        ),
    };
    const known = came(arrival('old'), arrival('a', { state: 'arriving' }));
    const [, notice] = runEffect(effects.fetchArrivals, api, known, changed('2026-12-02T09:00:00.000Z'));
    expect(notice).toMatchObject({
      type: NoticeActions.noticeShown.type,
      notice: {
        sentence: 'b.dxf and 1 more arrived in the inbox Structures.',
        action: { link: ['/projects', 'project', 'drawings'] },
      },
    });
  });

  it('brings in the drawings that were taken elsewhere', () => {
    const api = { drawing: jest.fn(() => of(drawing)) };
    const taken = arrival('a', { state: 'taken', drawing: 'd', version: 2 });
    const done = runEffect(effects.fetchTaken, api, came(taken, arrival('b')));
    expect(done).toEqual([DrawingActions.drawingChanged({ drawing })]);
    endEffects();
    runEffect(effects.fetchTaken, api, DrawingActions.drawingChanged({ drawing }), came(taken));
    expect(api.drawing).toHaveBeenCalledTimes(1);
  });

  it('is decided about once: the line is busy until the server has answered', () => {
    const decided = ArrivalActions.arrivalDecided({ id: 'a', answer: { as: 'version' } });
    const busy = after(came(arrival('a')), decided);
    expect(arrivalsFeature.selectDeciding(busy)).toEqual(['a']);
    const answered = { arrival: arrival('a', { state: 'taken', drawing: 'd', version: 2 }), drawing };
    const done = runEffect(effects.decide, { answerArrival: () => of(answered) }, came(arrival('a')), decided);
    expect(done).toEqual([DrawingActions.drawingChanged({ drawing }), ArrivalActions.decisionCarriedOut({ answered })]);
    const settled = after(came(arrival('a')), decided, ArrivalActions.decisionCarriedOut({ answered }));
    expect([selectWaitingArrivals(settled), arrivalsFeature.selectDeciding(settled)]).toEqual([[], []]);
    endEffects();
    const away = { answerArrival: () => throwError(() => new Error('away')) };
    const [refused, notice] = runEffect(effects.decide, away, came(arrival('a')), decided);
    expect(refused).toEqual(ArrivalActions.decisionRefused({ id: 'a' }));
    expect(notice).toMatchObject({ type: NoticeActions.requestRefused.type });
    const open = after(came(arrival('a')), decided, ArrivalActions.decisionRefused({ id: 'a' }));
    expect(arrivalsFeature.selectDeciding(open)).toEqual([]);
  });
});

describe('runs that others begin', () => {
  const run = (id: string, startedBy: string | null) =>
    ({ id, name: null, packageName: 'Permit', startedBy, state: 'done', createdAt: '2026-12-04' }) as RunInfo;

  it('are shown while the page is open; what a schedule begins is told', () => {
    const api = { run: jest.fn((id: string) => of(run(id, id === 'r2' ? BY_SCHEDULE : 'Ada'))) };
    const known = RunActions.runBegun({ run: run('r1', null) });
    const told = PresenceActions.newsArrived({ news: news({ latestRuns: ['r3', 'r2', 'r1'] }) });
    expect(runEffect(fetchRuns, api, known, told)).toEqual([
      RunActions.runFound({ run: run('r3', 'Ada') }),
      RunActions.runFound({ run: run('r2', BY_SCHEDULE) }),
      expect.objectContaining({
        notice: {
          sentence: 'Permit is being published by its schedule.',
          failed: false,
          action: { words: 'Show', link: ['/projects', 'project', 'runs', 'r2'] },
        },
      }),
    ]);
    expect(api.run).toHaveBeenCalledTimes(2);
  });
});
