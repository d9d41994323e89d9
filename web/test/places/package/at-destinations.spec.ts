import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideStore } from '@ngrx/store';
import { of } from 'rxjs';
import type { DeliveryState, RunInfo } from '@folvex/contract';
import { destinationsOf } from '../../../src/places/package/delivery/at-destinations';
import type { PlannedRun } from '../../../src/engine/plan-protocol';
import { Api } from '../../../src/state/api';
import * as lookupEffects from '../../../src/state/lookups/lookups.effects';
import { REDUCERS } from '../../../src/state/store';

const prepared = {
  files: [{ path: 'a.pdf' }, { path: 'b.pdf' }],
  destinations: [
    { ok: true, value: { kind: 'folder', folder: 'out', onConflict: 'stop' } },
    { ok: true, value: { kind: 'server', server: 'away', folder: '', onConflict: 'stop' } },
  ],
} as unknown as PlannedRun;

const away = { code: 'destination.away' as const, sentence: 'It is away.', place: {} };
const run = (finishedAt: string | null, ...states: DeliveryState[]): RunInfo =>
  ({ id: 'r', finishedAt, deliveries: states.map((state) => ({ state })) }) as RunInfo;

it('is looked at again when a run is over, and when the last of its deliveries is', async () => {
  const asked: (readonly string[])[] = [];
  const lying = new Set<string>();
  const atDestinations: Api['atDestinations'] = (_project, _destinations, paths) => {
    asked.push(paths);
    return of([{ where: '/out', paths: paths.filter((path) => lying.has(path)) }, { problem: away }]);
  };
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideStore(REDUCERS),
      provideEffects(lookupEffects),
      { provide: Api, useValue: { atDestinations } },
    ],
  });
  const latest = signal<RunInfo | null>(null);
  const output = signal<PlannedRun | null>(prepared);
  const { there, where } = TestBed.runInInjectionContext(() => destinationsOf({ output, run: latest }));
  const settle = async (told: RunInfo): Promise<string[]> => {
    latest.set(told);
    TestBed.tick();
    await new Promise((resolve) => setTimeout(resolve));
    expect(where()).toEqual(['/out', away.sentence]);
    expect(there()?.at(1)).toBeUndefined();
    return [...(there()?.[0]?.keys() ?? ['not known'])];
  };
  expect(await settle(run(null))).toEqual([]);
  lying.add('a.pdf');
  expect(await settle(run('2026-03-02T10:00:00Z', 'done', 'sending'))).toEqual(['a.pdf']);
  // The run's end is the same; what it delivers goes on.
  lying.add('b.pdf');
  expect(await settle(run('2026-03-02T10:00:00Z', 'done', 'failed'))).toEqual(['a.pdf', 'b.pdf']);
  const times = asked.length;
  await settle(run('2026-03-02T10:00:00Z', 'done', 'failed'));
  expect(asked).toHaveLength(times);
});
