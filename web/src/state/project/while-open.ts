import { Store } from '@ngrx/store';
import { concatMap, filter, map, take, type MonoTypeOperatorFunction } from 'rxjs';
import { projectFeature } from './project.reducer';

/** Drops what arrives once another project is open: it belongs to the one that it was asked for. */
export function whileOpen<T>(store: Store, project: string): MonoTypeOperatorFunction<T> {
  const open = store.select(projectFeature.selectId);
  return concatMap((value: T) =>
    open.pipe(
      take(1),
      filter((id) => id === project),
      map(() => value),
    ),
  );
}
