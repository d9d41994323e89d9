import { Injectable } from '@angular/core';
import type { Action } from '@ngrx/store';
import { concat, defer, EMPTY, finalize, ReplaySubject, type Observable } from 'rxjs';

/** Sends edits to the server one after the other, in the order they were made, whatever they change. */
@Injectable({ providedIn: 'root' })
export class EditQueue {
  /** Completes when what was asked for last is done. */
  private last: Observable<never> = EMPTY;

  /** Runs a task once those before it are done. */
  run(task: () => Observable<Action>): Observable<Action> {
    return defer(() => {
      const done = new ReplaySubject<never>();
      const before = this.last;
      this.last = done;
      return concat(before, defer(task)).pipe(finalize(() => done.complete()));
    });
  }
}
