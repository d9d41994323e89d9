import { Injectable } from '@angular/core';
import { proxy, wrap, type Remote } from 'comlink';
import { Observable } from 'rxjs';
import type { RelinkPlan } from '@folvex/core';
import type { GivenFile, LinkSurvey, RelinkEngine } from './relink-protocol';
import { startRelinkWorker } from './start-worker';

/** Files done, or the result. */
export type Relinking<T> = { done: number; all: number } | { answer: T };

/** Reads and repairs the links of a set of PDFs in a thread of its own, in which the files stay until it is ended. */
@Injectable({ providedIn: 'root' })
export class Relinker {
  private worker: Worker | undefined;
  private engine: Remote<RelinkEngine> | undefined;

  look(files: readonly File[]): Observable<Relinking<LinkSurvey>> {
    return this.work(async (engine, progress) => {
      const given: GivenFile[] = [];
      for (const file of files) {
        // A chosen folder gives the path of each file in it.
        const path = file.webkitRelativePath.split('/').slice(1).join('/') || file.name;
        given.push({ path, bytes: new Uint8Array(await file.arrayBuffer()) });
      }
      return engine.look(given, progress);
    });
  }

  /** All files of the set with their new names and links, as a ZIP archive. */
  write(plan: RelinkPlan): Observable<Relinking<Uint8Array<ArrayBuffer>>> {
    return this.work((engine, progress) => engine.apply(plan, progress));
  }

  /** Ends the thread; the files that it holds are gone. */
  end(): void {
    this.worker?.terminate();
    this.worker = this.engine = undefined;
  }

  private work<T>(
    run: (engine: Remote<RelinkEngine>, progress: (done: number, all: number) => void) => Promise<T>,
  ): Observable<Relinking<T>> {
    return new Observable((subscriber) => {
      this.worker ??= startRelinkWorker();
      this.engine ??= wrap<RelinkEngine>(this.worker);
      const progress = proxy((done: number, all: number) => subscriber.next({ done, all }));
      run(this.engine, progress).then(
        (answer) => {
          subscriber.next({ answer });
          subscriber.complete();
        },
        (error: unknown) => subscriber.error(error),
      );
    });
  }
}
