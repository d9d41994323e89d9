import { deserialize, serialize } from 'node:v8';
import { ErrorHandler, provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { SheetFacts } from '@folvex/contract';
import { STANDARD_NAMES, type PublishingFacts, type SheetPackage } from '@folvex/core';
import { PLAN_ENGINE, Planner } from '../../src/engine/planner';
import type { PlanEngine, SeenChange, SeenOfRun } from '../../src/engine/plan-protocol';
import { RunPlanner } from '../../src/engine/run-planner';
import { sheet } from '../support/sheet';

const PACK: SheetPackage = {
  ...{ id: 'p', name: 'Permit', recipe: '', order: ['a'], bundling: 'sheet', names: STANDARD_NAMES },
};
const FACTS: PublishingFacts = {
  project: { number: '1', name: 'P', client: '', fields: {} },
  ...{ groups: [], sheets: [sheet('1:50')], recipes: [], packages: [PACK], package: PACK, latest: new Map() },
  runDate: '2026-11-25',
};
const SEEN: SeenOfRun = { pages: new Map() };
const page = { warnings: [] } as unknown as SheetFacts;

/** As a message to another thread arrives. */
function copyOf<T>(value: T): T {
  return deserialize(serialize(value)) as T;
}

/** The engine as it is in its thread: it answers later, and gets copies. */
function setUp(engine: PlanEngine = new RunPlanner()) {
  const told: { plans: Partial<PublishingFacts>[]; checks: SeenChange[] } = { plans: [], checks: [] };
  const later = <T>(work: () => T): T => Promise.resolve().then(work) as T;
  const slow: PlanEngine = {
    plan: (changed) => {
      told.plans.push(changed);
      return later(() => engine.plan(copyOf(changed)));
    },
    check: (changed) => {
      told.checks.push(changed);
      return later(() => engine.check(copyOf(changed)));
    },
  };
  const errors = { handleError: jest.fn() };
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      { provide: PLAN_ENGINE, useValue: slow },
      { provide: ErrorHandler, useValue: errors },
    ],
  });
  const [facts, seen] = [signal<PublishingFacts | null>(FACTS), signal(SEEN)];
  return TestBed.runInInjectionContext(() => {
    const planner = TestBed.inject(Planner);
    const planned = planner.plan(facts);
    return { facts, seen, planned, checked: planner.check(planned, seen), told, errors };
  });
}

/** Lets effects and answers that are due come in. */
async function settle(): Promise<void> {
  for (let i = 0; i < 3; i++) {
    TestBed.tick();
    await new Promise((resolve) => setTimeout(resolve));
  }
}

const paths = (run: ReturnType<PlanEngine['plan']> | null) => run?.files.map(({ path }) => path);

it('plans and checks a run, without anything before that is known', async () => {
  const { facts, planned, checked } = setUp();
  expect([planned(), checked()]).toEqual([null, null]);
  await settle();
  expect(paths(planned())).toEqual(['A-101 Plan.pdf']);
  expect(planned()).toMatchObject({ packageId: 'p', pages: 1 });
  expect(planned()!.files[0]!.pages).toEqual(['A-101  Plan']);
  expect(checked()?.packageId).toBe('p');
  facts.set(null);
  await settle();
  expect([planned(), checked()]).toEqual([null, null]);
});

it('shows nothing where what a run would write is no longer asked when it comes in', async () => {
  const { facts, planned, checked } = setUp();
  TestBed.tick();
  facts.set(null);
  await settle();
  expect([planned(), checked()]).toEqual([null, null]);
});

it('sends what changed only', async () => {
  const { facts, seen, planned, told } = setUp();
  await settle();
  const renamed = { ...PACK, names: { ...STANDARD_NAMES, file: 'X-[sheet.number]' } };
  facts.set({ ...FACTS, package: renamed });
  await settle();
  expect(paths(planned())).toEqual(['X-A-101.pdf']);
  expect(told.plans.map((changed) => Object.keys(changed))).toEqual([Object.keys(FACTS), ['package']]);
  seen.set({ pages: new Map([['a', page]]), isProtected: true });
  await settle();
  expect(told.checks.at(-1)).toEqual({ isProtected: true, pages: { changed: [['a', page]], gone: [] } });
  seen.set({ pages: new Map(), isProtected: true });
  await settle();
  expect(told.checks.at(-1)).toEqual({ pages: { changed: [], gone: ['a'] } });
});

it('keeps what was found where a check finds the same again', async () => {
  const { seen, checked } = setUp();
  await settle();
  const first = checked();
  seen.set({ pages: new Map(), issued: new Map() });
  await settle();
  expect(checked()).toBe(first);
});

it('leaves out what was overtaken before the engine came to it', async () => {
  const { facts, planned, told } = setUp();
  await settle();
  for (const name of ['one', 'two', 'three']) {
    facts.set({ ...FACTS, package: { ...PACK, names: { ...STANDARD_NAMES, file: name } } });
    TestBed.tick();
  }
  await settle();
  // The first facts, and the last.
  expect(told.plans).toHaveLength(2);
  expect(paths(planned())).toEqual(['three.pdf']);
});

it('goes on after an error of the engine, which is reported', async () => {
  const engine = new RunPlanner();
  let times = 0;
  const plan: PlanEngine['plan'] = (changed) => {
    const run = engine.plan(changed);
    if (times++ === 0) throw new Error('out of memory');
    return run;
  };
  const { facts, planned, errors } = setUp({ plan, check: (changed) => engine.check(changed) });
  await settle();
  expect(planned()).toBeNull();
  expect(errors.handleError).toHaveBeenCalledWith(expect.objectContaining({ message: 'out of memory' }));
  facts.set({ ...FACTS });
  await settle();
  expect(paths(planned())).toEqual(['A-101 Plan.pdf']);
});
