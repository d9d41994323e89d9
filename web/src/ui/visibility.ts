import { DestroyRef, ElementRef, inject, signal, type Signal } from '@angular/core';

/** Whether the component's element was ever in sight, or within a margin of it. To be called where things are injected. */
export function hasBeenVisible(rootMargin = '0px'): Signal<boolean> {
  const seen = signal(false);
  const watcher = new IntersectionObserver(([entry]) => entry?.isIntersecting && seen.set(true), { rootMargin });
  watcher.observe(inject<ElementRef<HTMLElement>>(ElementRef).nativeElement);
  inject(DestroyRef).onDestroy(() => watcher.disconnect());
  return seen.asReadonly();
}
