import { HttpClient, HttpErrorResponse, HttpEventType } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { filter, map, Observable, of, tap } from 'rxjs';
import {
  path,
  ROUTES,
  isRunSettled,
  type ArrivalAnswer,
  type ArrivalAnswered,
  type Arrivals,
  type DrawingChange,
  type DrawingInfo,
  type EditAnswer,
  type FramesInfo,
  type ManyChange,
  type NewFrameSheets,
  type NewIssue,
  type NewProject,
  type NewSheet,
  type OfferAnswer,
  type AtDestination,
  type LookedAtDestination,
  type ComposedSheets,
  type PackageChange,
  type Person,
  type Presence,
  type ProjectInfo,
  type ProjectNews,
  type StorageInfo,
  type ProjectSummary,
  type Received,
  type Refusal,
  type RunInfo,
  type ScheduleInfo,
  type RunOptions,
  type SettingsChange,
  type SheetChange,
  type SheetFacts,
  type SpaceInfo,
} from '@folvex/contract';
import type { Destination, DrawingChanges, EntityFacts, FrameOrder, Issue, IssuedState, Problem } from '@folvex/core';
import type { ApiDescription } from './api-description';

/** A file on its way: the part sent so far, in the end the answer. */
export type Sending<T> = { share: number } | { answer: T };

/** The server's interface, a method a route; that of people, tokens and transfer servers is `OfficeApi`. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);
  /** How the sheets of the last edit came out, as long as nothing else was changed. */
  private factsOfLastEdit: EditAnswer['facts'] = {};

  /** What can be asked of the server. */
  description(): Observable<ApiDescription> {
    return this.http.get<ApiDescription>(ROUTES.openApi);
  }

  projects(): Observable<ProjectSummary[]> {
    return this.http.get<ProjectSummary[]>(path(ROUTES.projects));
  }

  /** Who has which project open, by the project's id. */
  everyPresence(): Observable<Record<string, Person[]>> {
    return this.http.get<Record<string, Person[]>>(ROUTES.everyPresence);
  }

  /** Reports that this window has a project open; answers who has, and what happened in it last. */
  reportPresence(project: string, presence: Presence): Observable<ProjectNews> {
    return this.http.post<ProjectNews>(path(ROUTES.presence, { project }), presence);
  }

  /** Works while the page is being left, too: nobody waits for the answer. */
  endPresence(project: string, window: string): void {
    this.sendOnLeaving(path(ROUTES.presenceEnded, { project }), 'POST', { window });
  }

  project(project: string): Observable<ProjectInfo> {
    this.factsOfLastEdit = {};
    return this.http.get<ProjectInfo>(path(ROUTES.project, { project }));
  }

  storage(project: string): Observable<StorageInfo> {
    return this.http.get<StorageInfo>(path(ROUTES.storage, { project }));
  }

  /** Sends a drawing. */
  upload(project: string, file: File, newerOf?: string): Observable<Sending<Received>> {
    this.factsOfLastEdit = {};
    return this.send(path(ROUTES.drawings, { project }), file, newerOf === undefined ? {} : { newerOf });
  }

  answerOffer(project: string, answer: OfferAnswer): Observable<Received> {
    this.factsOfLastEdit = {};
    return this.http.post<Received>(path(ROUTES.offers, { project }), answer);
  }

  /** What arrived in the inboxes of a project. */
  arrivals(project: string): Observable<Arrivals> {
    return this.http.get<Arrivals>(path(ROUTES.arrivals, { project }));
  }

  answerArrival(project: string, arrival: string, answer: ArrivalAnswer): Observable<ArrivalAnswered> {
    this.factsOfLastEdit = {};
    return this.http.post<ArrivalAnswered>(path(ROUTES.arrival, { project, arrival }), answer);
  }

  drawing(drawing: string): Observable<DrawingInfo> {
    this.factsOfLastEdit = {};
    return this.http.get<DrawingInfo>(path(ROUTES.drawing, { drawing }));
  }

  run(run: string): Observable<RunInfo> {
    return this.http.get<RunInfo>(path(ROUTES.run, { run }));
  }

  /** What differs between two contents of a drawing, by their SHA-256. */
  changes(drawing: string, from: string, to: string): Observable<DrawingChanges> {
    return this.http.get<DrawingChanges>(path(ROUTES.changes, { drawing, from, to }));
  }

  /** How a space of a drawing is looked at. */
  space(drawing: string, space: number): Observable<SpaceInfo> {
    return this.http.get<SpaceInfo>(path(ROUTES.space, { drawing, space }));
  }

  entity(drawing: string, space: number, index: number): Observable<EntityFacts> {
    return this.http.get<EntityFacts>(path(ROUTES.spaceEntity, { drawing, space, index }));
  }

  changeDrawing(drawing: string, change: DrawingChange): Observable<DrawingInfo> {
    this.factsOfLastEdit = {};
    return this.http.patch<DrawingInfo>(path(ROUTES.drawing, { drawing }), change);
  }

  /** Draws the comments in a PDF into its pages, as a newer version of it. */
  mergeComments(drawing: string): Observable<DrawingInfo> {
    this.factsOfLastEdit = {};
    return this.http.post<DrawingInfo>(path(ROUTES.commentsMerged, { drawing }), {});
  }

  createSheet(project: string, sheet: NewSheet): Observable<EditAnswer> {
    return this.edit(this.http.post<EditAnswer>(path(ROUTES.sheets, { project }), sheet));
  }

  /** A sheet from each layout of a drawing that has none yet. */
  createLayoutSheets(project: string, drawing: string): Observable<EditAnswer> {
    return this.edit(this.http.post<EditAnswer>(path(ROUTES.layoutSheets, { project, drawing }), {}));
  }

  frames(project: string, drawing: string, order: FrameOrder): Observable<FramesInfo[]> {
    return this.http.get<FramesInfo[]>(path(ROUTES.frames, { project, drawing, order }));
  }

  createFrameSheets(project: string, drawing: string, wanted: NewFrameSheets): Observable<EditAnswer> {
    return this.edit(this.http.post<EditAnswer>(path(ROUTES.frameSheets, { project, drawing }), wanted));
  }

  createProject(project: NewProject): Observable<ProjectSummary> {
    return this.http.post<ProjectSummary>(path(ROUTES.projects), project);
  }

  /** Each sheet as it was last issued. */
  issuedSheets(project: string): Observable<IssuedState[]> {
    return this.http.get<IssuedState[]>(path(ROUTES.issuedSheets, { project }));
  }

  /** Creates a project from an archive that was exported. */
  importProject(archive: File): Observable<Sending<ProjectSummary>> {
    return this.send(path(ROUTES.projectImport), archive);
  }

  /** Removes a project, or restores it. */
  removeProject(project: string, removed: boolean): Observable<ProjectSummary[]> {
    return this.http.put<ProjectSummary[]>(path(ROUTES.projectRemoved, { project }), { removed });
  }

  removeDrawing(drawing: string, removed: boolean): Observable<DrawingInfo> {
    return this.http.put<DrawingInfo>(path(ROUTES.drawingRemoved, { drawing }), { removed });
  }

  /** `name`: null gives it that of its package. */
  renameRun(run: string, name: string | null): Observable<RunInfo> {
    return this.http.patch<RunInfo>(path(ROUTES.run, { run }), { name });
  }

  removeRun(run: string, removed: boolean): Observable<RunInfo> {
    return this.http.put<RunInfo>(path(ROUTES.runRemoved, { run }), { removed });
  }

  removePackage(project: string, pack: string): Observable<EditAnswer> {
    return this.edit(this.http.delete<EditAnswer>(path(ROUTES.package, { project, package: pack })));
  }

  changeSettings(project: string, change: SettingsChange): Observable<EditAnswer> {
    return this.edit(this.http.patch<EditAnswer>(path(ROUTES.settings, { project }), change));
  }

  /** Adds the typefaces in a file to those of the project. */
  addTypefaces(project: string, file: File): Observable<EditAnswer> {
    const answers = this.send<EditAnswer>(path(ROUTES.typefaces, { project }), file);
    return this.edit(
      answers.pipe(
        filter((event) => 'answer' in event),
        map(({ answer }) => answer),
      ),
    );
  }

  changeSheets(project: string, change: ManyChange): Observable<EditAnswer> {
    return this.edit(this.http.post<EditAnswer>(path(ROUTES.sheetsChanged, { project }), change));
  }

  copySheet(project: string, sheet: string): Observable<EditAnswer> {
    return this.edit(this.http.post<EditAnswer>(path(ROUTES.sheetCopies, { project, sheet }), {}));
  }

  /** How sheets of a project come out, by id: their paper, where their views lie, what could not be shown. */
  composedSheets(project: string, ids: readonly string[]): Observable<Record<string, SheetFacts>> {
    const known = Object.fromEntries(
      ids.flatMap((id) => (this.factsOfLastEdit[id] ? [[id, this.factsOfLastEdit[id]]] : [])),
    );
    const missing = ids.filter((id) => !known[id]);
    if (missing.length === 0) return of(known);
    return this.http
      .post<ComposedSheets>(path(ROUTES.composedSheets, { project }), { ids: missing })
      .pipe(map(({ facts }) => ({ ...known, ...facts })));
  }

  /** How a page came out that a package adds. */
  addedPageFacts(project: string, pack: string, page: string): Observable<SheetFacts> {
    return this.http.get<SheetFacts>(path(ROUTES.addedPageFacts, { project, package: pack, page }));
  }

  /** Undoes the last edit, or makes the last undone one again. */
  step(project: string, way: 'undo' | 'redo'): Observable<EditAnswer> {
    return this.edit(this.http.post<EditAnswer>(path(ROUTES[way], { project }), {}));
  }

  removeSheets(project: string, ids: string[]): Observable<EditAnswer> {
    return this.edit(this.http.post<EditAnswer>(path(ROUTES.sheetsRemoved, { project }), { ids }));
  }

  changeSheet(project: string, sheet: string, change: SheetChange): Observable<EditAnswer> {
    return this.edit(this.http.patch<EditAnswer>(path(ROUTES.sheet, { project, sheet }), change));
  }

  issues(project: string): Observable<Issue[]> {
    return this.http.get<Issue[]>(path(ROUTES.issues, { project }));
  }

  makeIssue(project: string, issue: NewIssue): Observable<Issue> {
    return this.http.post<Issue>(path(ROUTES.issues, { project }), issue);
  }

  /** Makes an empty package, or one like another. */
  createPackage(project: string, name: string, like?: string): Observable<EditAnswer> {
    return this.edit(this.http.post<EditAnswer>(path(ROUTES.packages, { project }), { name, ...(like && { like }) }));
  }

  changePackage(project: string, pack: string, change: PackageChange): Observable<EditAnswer> {
    return this.edit(this.http.patch<EditAnswer>(path(ROUTES.package, { project, package: pack }), change));
  }

  /** The same while the page is being left: the browser sends it to its end, nobody waits for the answer. */
  changePackageOnLeaving(project: string, pack: string, change: PackageChange): void {
    this.sendOnLeaving(path(ROUTES.package, { project, package: pack }), 'PATCH', change);
  }

  /** Which of the files that a package would write are at its destinations already. */
  atDestinations(
    project: string,
    destinations: readonly Destination[],
    paths: readonly string[],
  ): Observable<LookedAtDestination[]> {
    return this.http.post<LookedAtDestination[]>(path(ROUTES.atDestinations, { project }), { destinations, paths });
  }

  publish(project: string, pack: string, options: RunOptions): Observable<RunInfo> {
    return this.http.post<RunInfo>(path(ROUTES.runs, { project, package: pack }), options);
  }

  /** Makes a run again from exactly what it was made from. */
  repeat(run: string): Observable<RunInfo> {
    return this.http.post<RunInfo>(path(ROUTES.runAgain, { run }), {});
  }

  /** Which files of a run are at a destination already. */
  runAtDestination(run: string, destination: Destination): Observable<AtDestination> {
    return this.http.post<AtDestination>(path(ROUTES.runDestination, { run }), { destination });
  }

  sendRun(run: string, destination: Destination): Observable<RunInfo> {
    return this.http.post<RunInfo>(path(ROUTES.deliveries, { run }), { destination });
  }

  /** When a package publishes by itself. */
  schedule(project: string, pack: string): Observable<ScheduleInfo> {
    return this.http.get<ScheduleInfo>(path(ROUTES.schedule, { project, package: pack }));
  }

  sendAgain(run: string, delivery: string): Observable<RunInfo> {
    return this.http.post<RunInfo>(path(ROUTES.deliveryAgain, { run, delivery }), {});
  }

  cancelDelivery(run: string, delivery: string): Observable<RunInfo> {
    return this.http.post<RunInfo>(path(ROUTES.deliveryCancel, { run, delivery }), {});
  }

  cancel(run: string): Observable<RunInfo> {
    return this.http.post<RunInfo>(path(ROUTES.runCancel, { run }), {});
  }

  /** A run whenever it changes, until it is over and read again. The browser reconnects by itself when the server restarts. */
  watch(run: string): Observable<RunInfo> {
    return new Observable((subscriber) => {
      const events = new EventSource(path(ROUTES.runEvents, { run }));
      events.onmessage = ({ data }: MessageEvent<string>) => {
        const info = JSON.parse(data) as RunInfo;
        subscriber.next(info);
        if (isRunSettled(info, Date.now())) {
          events.close();
          subscriber.complete();
        }
      };
      return () => events.close();
    });
  }

  private sendOnLeaving(url: string, method: string, content: object): void {
    const headers = { 'Content-Type': 'application/json' };
    // Where the server is away there is nobody left to tell.
    void fetch(url, { method, keepalive: true, headers, body: JSON.stringify(content) }).catch(() => undefined);
  }

  private send<T>(url: string, file: File, params: Record<string, string> = {}): Observable<Sending<T>> {
    const form = new FormData();
    form.append('file', file, file.name);
    return this.http.post<T>(url, form, { reportProgress: true, observe: 'events', params }).pipe(
      map((event) => {
        if (event.type === HttpEventType.UploadProgress) return { share: event.loaded / (event.total ?? event.loaded) };
        return event.type === HttpEventType.Response ? { answer: event.body! } : undefined;
      }),
      filter((event) => event !== undefined),
    );
  }

  /** An edit's answer also carries the facts of its sheets: they need not be asked for, until something changes again. */
  private edit(request: Observable<EditAnswer>): Observable<EditAnswer> {
    this.factsOfLastEdit = {};
    return request.pipe(tap(({ facts }) => (this.factsOfLastEdit = facts)));
  }
}

/** What went wrong with a request, in the server's words or our own. */
export function problemOf(error: unknown): Problem {
  if (error instanceof HttpErrorResponse) {
    const body = error.error as Partial<Refusal> | null;
    if (body?.problem) return body.problem;
    if (error.status === 0) {
      const sentence = 'The server cannot be reached; what you typed is still here. Try again in a moment.';
      return { code: 'offline', sentence, place: {} };
    }
  }
  const sentence = 'Something unexpected went wrong; reload the page.';
  return { code: 'unknown', sentence, place: {} };
}
