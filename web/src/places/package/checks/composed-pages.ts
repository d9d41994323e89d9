import { inject, Injectable } from '@angular/core';
import { catchError, EMPTY, from, map, mergeMap, of, scan, startWith, tap, type Observable } from 'rxjs';
import type { SheetFacts } from '@folvex/contract';
import type { SheetPackage } from '@folvex/core';
import type { PageSource } from '../../../engine/engine';
import { Api } from '../../../state/api';
import type { StripPage } from '../../../state/project.selectors';

/** A sheet in a certain state; the version changes with everything that it is composed from. */
export interface SheetVersion {
  id: string;
  version: string;
  /** Id of the package that adds it; absent: it is a sheet of the project. */
  addedBy?: string;
}

/** The pages of a strip that can be composed: sheets, and spaces of drawings that the package is saved with. */
export function pagesToCompose(
  strip: readonly StripPage[],
  saved: SheetPackage | undefined,
  sources: Readonly<Record<string, PageSource>>,
): SheetVersion[] {
  return strip.flatMap(({ id, extra }): SheetVersion[] => {
    const version = sources[id]?.version ?? '';
    if (!extra) return [{ id, version }];
    const known = saved?.extras?.some((one) => one.id === id);
    return saved && known && extra.kind === 'space'
      ? [{ id, version: `${saved.id} ${version}`, addedBy: saved.id }]
      : [];
  });
}

const AT_ONCE = 4;

/** Facts of the composed pages of a package, asked for once in each state and emitted as they arrive. */
@Injectable({ providedIn: 'root' })
export class ComposedPages {
  private readonly api = inject(Api);
  private readonly known = new Map<string, { version: string; facts: SheetFacts }>();

  /** What is known at once, then more and more; sheets that cannot be composed stay missing. */
  of(project: string, wanted: readonly SheetVersion[]): Observable<ReadonlyMap<string, SheetFacts>> {
    const there = new Map<string, SheetFacts>();
    const missing: SheetVersion[] = [];
    for (const one of wanted) {
      const known = this.known.get(one.id);
      if (known?.version === one.version) there.set(one.id, known.facts);
      else missing.push(one);
    }
    if (missing.length === 0) return of(there);
    return from(missing).pipe(
      mergeMap(
        ({ id, version, addedBy }) =>
          (addedBy === undefined
            ? this.api.sheetFacts(project, id)
            : this.api.addedPageFacts(project, addedBy, id)
          ).pipe(
            tap((facts) => this.known.set(id, { version, facts })),
            map((facts) => [id, facts] as const),
            catchError(() => EMPTY),
          ),
        AT_ONCE,
      ),
      scan((all, [id, facts]) => new Map(all).set(id, facts), there),
      startWith(there),
    );
  }
}
