import { inject, Injectable } from '@angular/core';
import { Store, type Action } from '@ngrx/store';
import { packageChange } from '@folvex/contract';
import { catchError, concat, EMPTY, finalize, map, mergeMap, of, switchMap, take, type Observable } from 'rxjs';
import { Api, problemOf } from '../api';
import { EditQueue } from '../edits/edit-queue';
import { projectFeature } from '../project/project.reducer';
import { EditActions } from '../edits/edits.actions';
import { NoticeActions } from '../notices/notices.actions';
import { PackageActions } from './packages.actions';
import { selectUnsavedPackages, type EditedPackage } from './packages.selectors';

/** Sends what was edited of packages: each time what differs then from what the server has. */
@Injectable({ providedIn: 'root' })
export class PackageSaver {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly queue = inject(EditQueue);
  /** Ids of packages an edit of which was sent and not answered yet. */
  private readonly onTheWay = new Set<string>();

  /** Sends a package in its turn, if there is anything to send. Where that is refused, what the server has is shown, and why. */
  save(packageId: string): Observable<Action> {
    return this.queue.run(() => this.send(packageId));
  }

  /**
   * Sends what was edited while the page is being left, when nobody waits for an answer. What is on its way already may
   * have come to the server or not: then this edit is not refused for it.
   */
  saveOnLeaving(project: string, { ours, saved }: EditedPackage): void {
    const { was, ...change } = packageChange(saved, ours);
    this.api.changePackageOnLeaving(project, ours.id, this.onTheWay.has(ours.id) ? change : { ...change, was });
  }

  /** Sends all that was edited, at once: for tasks whose turn it is. */
  sendAll(): Observable<Action> {
    return this.unsaved().pipe(switchMap((all) => concat(...all.map(({ ours }) => this.send(ours.id)))));
  }

  private unsaved(): Observable<EditedPackage[]> {
    return this.store.select(selectUnsavedPackages).pipe(take(1));
  }

  private send(packageId: string): Observable<Action> {
    return this.unsaved().pipe(
      switchMap((all) => {
        const edited = all.find(({ ours }) => ours.id === packageId);
        return edited
          ? this.store.select(projectFeature.selectId).pipe(
              take(1),
              map((id) => ({ id, edited })),
            )
          : EMPTY;
      }),
      switchMap(({ id, edited: { ours, saved } }) => {
        this.onTheWay.add(ours.id);
        return this.api.changePackage(id, ours.id, packageChange(saved, ours)).pipe(
          finalize(() => this.onTheWay.delete(ours.id)),
          mergeMap(({ pack, history }): Action[] => [
            ...(pack ? [PackageActions.packageSaved({ pack, sent: ours })] : []),
            EditActions.historyArrived({ history }),
          ]),
          catchError((error: unknown) => this.refused(id, ours.id, error)),
        );
      }),
    );
  }

  private refused(project: string, packageId: string, error: unknown): Observable<Action> {
    const problem = problemOf(error);
    const refused = of(NoticeActions.requestRefused({ problem }));
    // Where the server is away, what was edited stays, to be sent with the next edit.
    if (problem.code === 'offline') return refused;
    const shown = this.api.project(project).pipe(
      mergeMap(({ packages, history }): Action[] => [
        PackageActions.packageShownAnew({ packageId, pack: packages.find(({ id }) => id === packageId) ?? null }),
        EditActions.historyArrived({ history }),
      ]),
      catchError(() => EMPTY),
    );
    return concat(shown, refused);
  }
}
