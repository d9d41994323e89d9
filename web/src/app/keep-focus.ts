import { afterNextRender, inject, Injector } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router } from '@angular/router';
import { filter, skip } from 'rxjs';

/**
 * Moves the focus to the main region when navigating removes the element that had it, so that Tab goes on in the new place.
 * Call it in an injection context.
 */
export function keepFocus(): void {
  const [router, injector] = [inject(Router), inject(Injector)];
  router.events
    .pipe(
      filter((event) => event instanceof NavigationEnd),
      // When the application is opened, nothing had the focus.
      skip(1),
      takeUntilDestroyed(),
    )
    .subscribe(() =>
      afterNextRender(
        () => {
          if (document.activeElement === document.body) document.querySelector<HTMLElement>('main')?.focus();
        },
        { injector },
      ),
    );
}
