import { effect, ErrorHandler, inject, Injectable, InjectionToken, signal, type Signal } from '@angular/core';
import { wrap, type Remote } from 'comlink';
import type { SheetFacts } from '@folvex/contract';
import type { PublishingFacts } from '@folvex/core';
import type { CheckedRun, PlanEngine, PlannedRun, SeenChange, SeenOfRun } from './plan-protocol';
import { startPlanWorker } from './start-worker';

/** The engine that plans and checks; by default in a thread of its own. */
export const PLAN_ENGINE = new InjectionToken<Remote<PlanEngine>>('PLAN_ENGINE', {
  providedIn: 'root',
  factory: () => wrap<PlanEngine>(startPlanWorker()),
});

/** Plans and checks runs outside the interface's thread: for thousands of sheets that takes a while. */
@Injectable({ providedIn: 'root' })
export class Planner {
  private readonly engine = inject(PLAN_ENGINE);
  private readonly errors = inject(ErrorHandler);
  /** What the engine has been told. */
  private facts: Partial<PublishingFacts> = {};
  private seen: Partial<Omit<SeenOfRun, 'pages'>> = {};
  /** What the engine found last. */
  private last: CheckedRun | null = null;
  private readonly pages = new Map<string, SheetFacts>();

  /** What a run would write, as soon as that is known; null before. Call it in an injection context. */
  plan(facts: () => PublishingFacts | null): Signal<PlannedRun | null> {
    const planned = signal<PlannedRun | null>(null);
    const latest = this.oneAtATime();
    effect(() => {
      const wanted = facts();
      if (!wanted) return planned.set(null);
      latest(async () => {
        const changed = changesOf(this.facts, wanted);
        this.facts = wanted;
        const found = await this.engine.plan(changed);
        planned.set(facts() && found);
      });
    });
    return planned;
  }

  /**
   * What the checks find in a planned run, as soon as that is known; null before. Call it in an injection context.
   * `seen`: what is known of its pages, its destination and earlier issues.
   */
  check(planned: Signal<PlannedRun | null>, seen: () => SeenOfRun): Signal<CheckedRun | null> {
    const checked = signal<CheckedRun | null>(null);
    const latest = this.oneAtATime();
    effect(() => {
      const { pages, ...others } = seen();
      if (!planned()) return checked.set(null);
      latest(async () => {
        const changed = { ...changesOf(this.seen, others), pages: this.changedPages(pages) };
        this.seen = others;
        const found = await this.engine.check(changed);
        if (found) this.last = found;
        checked.set(planned() && this.last);
      });
    });
    return checked;
  }

  private changedPages(pages: SeenOfRun['pages']): SeenChange['pages'] {
    const changed = [...pages].filter(([id, facts]) => this.pages.get(id) !== facts);
    const gone = [...this.pages.keys()].filter((id) => !pages.has(id));
    for (const [id, facts] of changed) this.pages.set(id, facts);
    for (const id of gone) this.pages.delete(id);
    return { changed, gone };
  }

  /**
   * Runs tasks one after the other; of those that come in meanwhile only the last. Each starts in a task of its own on
   * the page's thread, so that copying the facts of thousands of sheets does not lengthen the one that caused it.
   */
  private oneAtATime(): (task: () => Promise<void>) => void {
    let next: (() => Promise<void>) | undefined;
    let running = false;
    const run = async (): Promise<void> => {
      running = true;
      while (next) {
        await new Promise((resolve) => setTimeout(resolve));
        const task = next;
        next = undefined;
        await task().catch((error: unknown) => this.errors.handleError(error));
      }
      running = false;
    };
    return (task) => {
      next = task;
      if (!running) void run();
    };
  }
}

/** The values that are not the same objects as before. */
function changesOf<T extends object>(before: Partial<T>, now: T): Partial<T> {
  const entries = Object.entries(now).filter(([key, value]) => before[key as keyof T] !== value);
  return Object.fromEntries(entries) as Partial<T>;
}
