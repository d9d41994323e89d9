import { computed, effect, inject, Injectable, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import type { SheetFacts } from '@folvex/contract';
import { sameValue } from '@folvex/core';
import { ComposedActions, type PageVersion } from './composed.actions';
import { composedFeature } from './composed.reducer';

/** How pages come out, asked for as they are looked at. */
@Injectable({ providedIn: 'root' })
export class ComposedPages {
  private readonly store = inject(Store);
  private readonly known = this.store.selectSignal(composedFeature.selectPages);

  /** A page as it came out in its present version; null until that is known. To be called where things are injected. */
  one(wanted: () => PageVersion | undefined): Signal<SheetFacts | null> {
    const pages = this.follow(() => [wanted() ?? []].flat());
    return computed(() => {
      const [page] = pages();
      const known = page && this.known()[page.id];
      return known?.version === page?.version ? (known?.facts ?? null) : null;
    });
  }

  /**
   * Those of many pages that are known in their present version, and how many are still to come. To be called where
   * things are injected.
   */
  many(wanted: () => readonly PageVersion[]): Signal<{ facts: ReadonlyMap<string, SheetFacts>; missing: number }> {
    const pages = this.follow(wanted);
    return computed(() => {
      const facts = new Map<string, SheetFacts>();
      let missing = 0;
      for (const { id, version } of pages()) {
        const known = this.known()[id];
        if (known?.version !== version) missing++;
        else if (known.facts) facts.set(id, known.facts);
      }
      return { facts, missing };
    });
  }

  private follow(wanted: () => readonly PageVersion[]): Signal<readonly PageVersion[]> {
    const pages = computed(wanted, { equal: sameValue });
    effect((onCleanup) => {
      const wantedNow = pages();
      if (wantedNow.length === 0) return;
      // In a task of its own: with thousands of pages it would lengthen the one that changed them.
      const timer = setTimeout(() => this.store.dispatch(ComposedActions.pagesWanted({ pages: wantedNow })));
      onCleanup(() => clearTimeout(timer));
    });
    return pages;
  }
}
