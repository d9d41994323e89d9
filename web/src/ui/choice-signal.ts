import { computed, linkedSignal, type WritableSignal } from '@angular/core';

/**
 * What a person may choose or type: it begins as the default, and goes back to it only when the default itself becomes
 * another value, not whenever something that it is worked out from is replaced by its like (as each saved edit does).
 */
export function choice<T>(byDefault: () => T): WritableSignal<T> {
  return linkedSignal({ source: computed(byDefault), computation: (value) => value });
}

/** The same with a default that is worked out anew only when `of` becomes another value. */
export function choiceOf<S, T>(of: () => S, byDefault: () => T): WritableSignal<T> {
  return linkedSignal({ source: computed(of), computation: byDefault });
}
