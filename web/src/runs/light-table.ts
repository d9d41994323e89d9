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
import { Store } from '@ngrx/store';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { projectFeature } from '../state/project.reducer';
import { selectAllRuns } from '../state/project.selectors';
import { EmptyState } from '../ui/empty-state';
import { momentInWords } from '../ui/words';
import { CompareLayer, type CompareMode } from './compare-layer';
import { ComparePanel } from './compare-panel';
import { LayerList } from './layer-list';
import { PageComparer } from './page-comparer';
import { PageViewer } from './page-viewer';
import { PdfFile } from './pdf-file';
import { RunFiles } from './run-files';
import { comparedRuns, positionOf, sheetAt } from './run-pairs';

/** A run's files as they were written, page by page, by an independent reader. */
@Component({
  selector: 'fx-light-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CompareLayer, ComparePanel, EmptyState, LayerList, PageViewer, RouterLink, RunFiles],
  templateUrl: './light-table.html',
  styleUrl: './light-table.scss',
})
export class LightTable {
  /** Id of a run, from the address; the latest one without it. */
  readonly run = input<string>();
  /** Id of the run that it is compared with, from the address. */
  readonly with = input<string>();

  private readonly comparer = inject(PageComparer);
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  protected readonly status = this.store.selectSignal(projectFeature.selectStatus);
  private readonly allRuns = this.store.selectSignal(selectAllRuns);
  protected readonly runs = computed(() => this.allRuns().filter((run) => run.files.length > 0));
  protected readonly shown = computed<RunInfo | null>(
    () => this.runs().find(({ id }) => id === this.run()) ?? this.runs()[0] ?? null,
  );
  private readonly shownId = computed(() => this.shown()?.id ?? '');
  protected readonly fileAt = linkedSignal({ source: this.shownId, computation: () => 0 });
  private readonly url = computed(() =>
    this.shownId() ? path(ROUTES.runFile, { run: this.shownId(), index: this.fileAt() }) : undefined,
  );
  /** Of a protected file, as it was typed last; for this file only. */
  protected readonly password = linkedSignal({ source: this.url, computation: () => '' });
  protected readonly pdf = resource({
    params: () => {
      const url = this.url();
      return url === undefined ? undefined : { url, password: this.password() };
    },
    loader: ({ params: { url, password } }) => PdfFile.open(url, password),
  });
  /** True where the file wants a password, another one than was typed. */
  protected readonly locked = computed(() => this.pdf.error()?.name === 'PasswordException');
  protected readonly file = computed(() => (this.pdf.hasValue() ? this.pdf.value() : null));
  /** Page shown, counted from 1. */
  protected readonly page = linkedSignal({ source: this.url, computation: () => 1 });
  /** Counts changes of layers, so that the page is painted again. */
  protected readonly layersTurn = signal(0);

  /** What is searched for in the file shown. */
  protected readonly wanted = linkedSignal({ source: this.shownId, computation: () => '' });

  protected readonly earlier = computed(() => this.runs().find(({ id }) => id === this.with()) ?? null);
  protected readonly sinceWords = computed(() => (this.earlier() ? momentInWords(this.earlier()!.createdAt) : ''));
  protected readonly compared = computed(() => {
    const [run, earlier] = [this.shown(), this.earlier()];
    return run && earlier && run.id !== earlier.id ? comparedRuns(run, earlier) : undefined;
  });
  private readonly sheet = computed(() => {
    const run = this.shown();
    return run ? sheetAt(run, { file: this.fileAt(), page: this.page() }) : undefined;
  });
  protected readonly pageState = computed(() => this.compared()?.states.get(this.sheet() ?? ''));
  /** Where the page shown lies in the earlier run, if it is another one there. */
  private readonly then = computed(() => {
    const [earlier, sheet] = [this.earlier(), this.sheet()];
    return earlier && sheet && this.pageState() === 'changed' ? positionOf(earlier, sheet) : undefined;
  });
  private readonly earlierUrl = computed(() =>
    this.then() ? path(ROUTES.runFile, { run: this.earlier()!.id, index: this.then()!.file }) : undefined,
  );
  private readonly earlierPdf = resource({
    params: () => this.earlierUrl(),
    loader: ({ params: url }) => PdfFile.open(url),
  });
  private readonly earlierFile = computed(() => (this.earlierPdf.hasValue() ? this.earlierPdf.value() : null));
  private readonly viewer = viewChild(PageViewer);
  private readonly comparing = resource({
    params: () => {
      const [file, earlier, then] = [this.file(), this.earlierFile(), this.then()];
      const wide = this.viewer()?.size()?.width;
      if (!file || !earlier || !then || wide === undefined) return undefined;
      const shownPx = Math.round(wide * devicePixelRatio);
      return { after: { file, page: this.page() }, before: { file: earlier, page: then.page }, shownPx };
    },
    loader: ({ params: { before, after, shownPx } }) => this.comparer.compare(before, after, shownPx),
  });
  protected readonly found = computed(() => (this.comparing.hasValue() ? this.comparing.value() : undefined));
  private readonly sized = resource({
    params: () => (this.file() ? { file: this.file()!, page: this.page() } : undefined),
    loader: ({ params: { file, page } }) => file.paper(page),
  });
  protected readonly paper = computed(() => (this.sized.hasValue() ? this.sized.value() : undefined));
  protected readonly layer = viewChild(CompareLayer);
  protected readonly mode = signal<CompareMode>('together');
  protected readonly lineAt = signal(50);
  protected readonly areaAt = linkedSignal({ source: this.found, computation: () => -1 });

  constructor() {
    for (const open of [this.file, this.earlierFile]) {
      effect((onCleanup) => {
        const file = open();
        onCleanup(() => file?.close());
      });
    }
  }

  protected choose(id: string): void {
    void this.router.navigate([], { queryParams: { run: id } });
  }

  protected compareWith(id: string): void {
    void this.router.navigate([], { queryParams: { run: this.shownId(), ...(id && { with: id }) } });
  }

  protected go(fileAt: number, page: number): void {
    this.fileAt.set(fileAt);
    this.page.set(page);
  }
}
