import { effect, signal, untracked, type Signal } from '@angular/core';

/**
 * The result of `work`, computed in a later task of the event loop, so that the edit behind it is shown first.
 * `changes` reads the signals that it depends on, and must be quick. Call it in an injection context.
 */
export function deferred<T>(work: () => T, changes: () => unknown): Signal<T> {
  const result = signal(untracked(work));
  let first = true;
  effect((onCleanup) => {
    changes();
    if (first) {
      first = false;
      return;
    }
    const later = setTimeout(() => result.set(untracked(work)));
    onCleanup(() => clearTimeout(later));
  });
  return result;
}
