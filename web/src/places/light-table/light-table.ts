import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  resource,
  signal,
  viewChild,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { MatButton } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { Store } from '@ngrx/store';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { joinedPath } from '@folvex/core';
import { projectFeature } from '../../state/project/project.reducer';
import { RunActions } from '../../state/runs/runs.actions';
import { nameOfRun } from '../../state/runs/runs.reducer';
import { askName } from '../../forms/ask-name';
import { selectAllRuns, selectRemovedRuns, selectRunsWithPdfs } from '../../state/runs/runs.selectors';
import { confirm } from '../../ui/confirm';
import { EmptyState } from '../../ui/empty-state';
import { RemovedList } from '../../ui/removed-list';
import { countOf, secondInWords } from '../../ui/words';
import { runSender } from '../../deliveries/send-run';
import { CompareLayer } from './compare-layer';
import { ComparePanel } from './compare-panel';
import { comparison } from './comparison';
import { LayerList } from './layer-list';
import { PageViewer } from './page-viewer';
import { PdfFile } from './pdf-file';
import { RunFiles } from './run-files';
import { CompareActions } from '../../state/compare/compare.actions';
import { compareFeature } from '../../state/compare/compare.reducer';
import { firstChanged } from '../../state/runs/run-pairs';
import { TextField } from '../../forms/text-field';
import { ProjectLinks } from '../../state/project/project-links';

/** A run's files as they were written, page by page, by an independent reader. */
@Component({
  selector: 'fx-light-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    CompareLayer,
    ComparePanel,
    EmptyState,
    LayerList,
    MatButton,
    PageViewer,
    RemovedList,
    RouterLink,
    RunFiles,
    TextField,
  ],
  templateUrl: './light-table.html',
  styleUrl: './light-table.scss',
})
export class LightTable {
  protected readonly to = inject(ProjectLinks).to;
  /** Id of a run, from the address; the latest one without it. */
  readonly run = input<string>();
  /** Id of the run that it is compared with, from the address. */
  readonly with = input<string>();
  /** Which of its files and which page of that, from the address; both count from 1. */
  readonly file = input<string>();
  readonly page = input<string>();

  private readonly router = inject(Router);
  private readonly store = inject(Store);
  protected readonly send = runSender();
  private readonly dialog = inject(MatDialog);
  protected readonly status = this.store.selectSignal(projectFeature.selectStatus);
  private readonly allRuns = this.store.selectSignal(selectAllRuns);
  protected readonly runs = this.store.selectSignal(selectRunsWithPdfs);
  private readonly removedRuns = this.store.selectSignal(selectRemovedRuns);
  protected readonly removed = computed(() =>
    this.removedRuns().map((run) => ({
      ...{ id: run.id, removedAt: run.removedAt },
      name: `${secondInWords(run.createdAt)}  ${nameOfRun(run)}`,
    })),
  );
  /** The run of the address, or the latest one where it names none. */
  protected readonly shown = computed<RunInfo | null>(() => {
    const id = this.run();
    return (id === undefined ? this.runs()[0] : this.runs().find((run) => run.id === id)) ?? null;
  });
  /** Why the run of the address is not shown. */
  protected readonly absence = computed(() => {
    const id = this.run();
    if (this.removedRuns().some((run) => run.id === id)) return 'This run was removed';
    const known = this.allRuns().some((run) => run.id === id);
    return known ? 'This run has no PDF files' : 'There is no run at this address';
  });
  /** The run shown, with its files in other formats. */
  protected readonly whole = computed(() => this.allRuns().find(({ id }) => id === this.shown()?.id) ?? null);
  protected readonly extraFiles = computed(() =>
    (this.whole()?.files ?? []).flatMap((file, at) => (file.format === null ? [] : [{ ...file, at }])),
  );
  private readonly shownId = computed(() => this.shown()?.id ?? '');
  protected readonly fileAt = linkedSignal({
    source: () => ({ run: this.shownId(), at: this.file() }),
    computation: ({ at }) => positionOf(at) - 1,
  });
  private readonly url = computed(() =>
    this.shownId() ? path(ROUTES.runFile, { run: this.shownId(), index: this.fileAt() }) : undefined,
  );
  /** The password typed last, for this file only. */
  protected readonly password = linkedSignal({ source: this.url, computation: () => '' });
  protected readonly pdf = resource({
    params: () => {
      const url = this.url();
      return url === undefined ? undefined : { url, password: this.password() };
    },
    loader: ({ params: { url, password } }) => PdfFile.open(url, password),
  });
  /** True where the file needs a password and the one typed did not open it, or is being tried. */
  protected readonly locked = computed(() => this.passwordFailed() || (this.pdf.isLoading() && this.password() !== ''));
  private readonly passwordFailed = computed(() => this.pdf.error()?.name === 'PasswordException');
  protected readonly passwordProblem = computed(() =>
    this.passwordFailed() && this.password() ? 'This is not the password of the file.' : '',
  );
  protected readonly opened = computed(() => (this.pdf.hasValue() ? this.pdf.value() : null));
  /** Page shown, counted from 1. */
  protected readonly pageAt = linkedSignal({
    source: () => ({ url: this.url(), page: this.page() }),
    computation: ({ page }) => positionOf(page),
  });
  /** Counts changes of layers, so that the page is painted again. */
  protected readonly layersTurn = signal(0);

  /** What is searched for in the file shown. */
  protected readonly wanted = linkedSignal({ source: this.shownId, computation: () => '' });

  protected readonly earlier = computed(() => this.runs().find(({ id }) => id === this.with()) ?? null);
  protected readonly sinceWords = computed(() => (this.earlier() ? secondInWords(this.earlier()!.createdAt) : ''));
  private readonly viewer = viewChild(PageViewer);
  protected readonly comparison = comparison({
    run: this.shown,
    earlier: this.earlier,
    position: computed(() => ({ file: this.fileAt(), page: this.pageAt() })),
    file: this.opened,
    shownPx: computed(() => {
      const size = this.viewer()?.size();
      return size && Math.round(size.width * devicePixelRatio);
    }),
  });
  private readonly sized = resource({
    params: () => (this.opened() ? { file: this.opened()!, page: this.pageAt() } : undefined),
    loader: ({ params: { file, page } }) => file.paper(page),
  });
  protected readonly paper = computed(() => (this.sized.hasValue() ? this.sized.value() : undefined));
  protected readonly layer = viewChild(CompareLayer);
  protected readonly compare = this.store.selectSignal(compareFeature.selectCompareState);

  constructor() {
    // The address names the run that is shown.
    effect(() => {
      const id = this.shownId();
      if (id && this.run() === undefined) void this.router.navigate(this.to('runs', id), { replaceUrl: true });
    });
    effect(() => {
      if (this.comparison.page()) this.store.dispatch(CompareActions.pageCompared());
    });
    effect((onCleanup) => {
      const file = this.opened();
      onCleanup(() => file?.close());
    });
  }

  protected choose(id: string): void {
    void this.router.navigate(this.to('runs', id));
  }

  protected rename(run: RunInfo): void {
    const name = nameOfRun(run);
    askName(this.dialog, { title: `Rename the run ${name}`, name }).subscribe((wanted) =>
      this.store.dispatch(RunActions.runRenamed({ runId: run.id, name: wanted, was: run.name })),
    );
  }

  protected remove(run: RunInfo): void {
    const { id, createdAt, files } = run;
    confirm(this.dialog, {
      title: `Remove the run ${nameOfRun(run)}?`,
      lines: [
        `It ran at ${secondInWords(createdAt)} and wrote ${countOf(files.length, 'file')}.`,
        'Delivered files stay where they are. You can restore the run later.',
      ],
      action: 'Remove run',
    }).subscribe((yes) => {
      if (yes) this.store.dispatch(RunActions.removalAskedFor({ runId: id, removed: true }));
    });
  }

  protected restore(runId: string): void {
    this.store.dispatch(RunActions.removalAskedFor({ runId, removed: false }));
  }

  /** Compares with another run, from the first page on that is not the same in it; without one no longer. */
  protected compareWith(id: string): void {
    const [run, earlier] = [this.shown(), this.runs().find((one) => one.id === id)];
    const first = run && earlier && firstChanged(run, earlier);
    const place = first && { file: first.file + 1, page: first.page };
    void this.router.navigate(this.to('runs', this.shownId()), { queryParams: id ? { with: id, ...place } : {} });
  }

  /** A link to another file of the run. */
  protected follow({ path: said, page }: { path: string; page: number }): void {
    const files = this.shown()?.files ?? [];
    const target = joinedPath(files[this.fileAt()]?.path ?? '', said);
    const at = files.findIndex((file) => file.path === target);
    if (at >= 0) this.go(at, page);
  }

  protected go(fileAt: number, page: number): void {
    this.fileAt.set(fileAt);
    this.turnTo(page);
  }

  /** The address follows, so that a link to the page can be sent. */
  protected turnTo(page: number): void {
    this.pageAt.set(page);
    const queryParams = { file: this.fileAt() + 1, page };
    void this.router.navigate(this.to('runs', this.shownId()), {
      queryParams,
      queryParamsHandling: 'merge',
      replaceUrl: true,
    });
  }
}

/** A position that an address states, from 1; the first where it states none. */
function positionOf(stated: string | undefined): number {
  const position = Number(stated ?? 1);
  return Number.isInteger(position) && position >= 1 ? position : 1;
}
