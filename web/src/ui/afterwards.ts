import { effect, signal, untracked, type Signal } from '@angular/core';

/**
 * What something comes to, worked out in a turn of the event loop of its own, so that what was edited is shown first.
 * `changes` reads what it depends on, which must be quick. To be called where things are injected.
 */
export function afterwards<T>(work: () => T, changes: () => unknown): Signal<T> {
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
