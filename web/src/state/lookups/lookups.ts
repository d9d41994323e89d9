import { computed, effect, inject, Injectable, untracked, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { LookupAnswer, LookupKind, LookupQuery } from './lookup-table';
import { LookupActions } from './lookups.actions';
import { lookupsFeature } from './lookups.reducer';

/** What is looked up; nothing, while nothing is asked. */
export interface Lookup<K extends LookupKind> {
  /** Null until it is there. */
  answer: Signal<LookupAnswer<K> | null>;
  /** Why it did not arrive; empty otherwise. */
  problem: Signal<string>;
  loading: Signal<boolean>;
}

/** Asks the server for what is only looked at. */
@Injectable({ providedIn: 'root' })
export class Lookups {
  private readonly store = inject(Store);
  private readonly entries = this.store.selectSignal(lookupsFeature.selectEntries);

  /** Follows a query as it changes; undefined: nothing is asked. To be called where things are injected. */
  of<K extends LookupKind>(kind: K, query: () => LookupQuery<K> | undefined): Lookup<K> {
    const key = computed(() => {
      const asked = query();
      return asked && `${kind} ${JSON.stringify(asked)}`;
    });
    const entry = computed(() => this.entries().find((one) => one.key === key()));
    effect(() => {
      const [wanted, asked] = [key(), query()];
      if (wanted === undefined || !asked) return;
      untracked(() => {
        const known = entry();
        // One that failed is asked for again.
        if (known && !known.problem) return;
        this.store.dispatch(LookupActions.lookupAskedFor({ key: wanted, kind, query: asked }));
      });
    });
    return {
      answer: computed(() => (entry()?.answer as LookupAnswer<K> | undefined) ?? null),
      problem: computed(() => entry()?.problem?.sentence ?? ''),
      loading: computed(() => key() !== undefined && !entry()?.answer && !entry()?.problem),
    };
  }
}
