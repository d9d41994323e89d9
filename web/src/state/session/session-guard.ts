import { inject } from '@angular/core';
import type { HttpInterceptorFn } from '@angular/common/http';
import { HttpErrorResponse } from '@angular/common/http';
import { Router, type CanActivateFn } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Refusal } from '@folvex/contract';
import { filter, map, take, tap } from 'rxjs';
import { SessionActions } from './session.actions';
import { selectSignedOut, sessionFeature } from './session.reducer';

/** Opens an address once it is known who is signed in; the sign-in instead where nobody is and somebody has to be. */
export const signedIn: CanActivateFn = (_route, { url }) => {
  const [store, router] = [inject(Store), inject(Router)];
  const signedOut = store.selectSignal(selectSignedOut);
  return store.select(sessionFeature.selectSessionState).pipe(
    // Where the server does not answer the page opens and says so itself.
    filter(({ info, problem }) => info !== null || problem !== null),
    take(1),
    map(() => (signedOut() ? router.createUrlTree(['/sign-in'], { queryParams: { back: url } }) : true)),
  );
};

/** Notices when the server no longer knows this browser. */
export const noticeEndedSession: HttpInterceptorFn = (request, next) => {
  const store = inject(Store);
  return next(request).pipe(
    tap({
      error: (error: unknown) => {
        if (!(error instanceof HttpErrorResponse)) return;
        const { problem } = (error.error ?? {}) as Partial<Refusal>;
        if (problem?.code === 'access.sign-in') store.dispatch(SessionActions.sessionEnded());
      },
    }),
  );
};
