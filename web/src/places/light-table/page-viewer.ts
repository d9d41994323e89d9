import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  model,
  output,
  resource,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTooltip } from '@angular/material/tooltip';
import type { PaperSize } from '@folvex/core';
import { PaperViewport } from '../../ui/paper-viewport';
import { screenPixelsPerMm } from '../../ui/screen';
import { isTyping, shortcutOf } from '../../ui/shortcuts';
import { countOf, paperInWords } from '../../ui/words';
import type { LinkEnd } from './page-link';
import { PageLinks } from './page-links';
import type { Hit, PdfFile } from './pdf-file';
import { LIGHT_TABLE_KEYS } from './shortcuts';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';

const STEP = 1.25;
const MAX_ZOOM = 12;
const MARGIN_PX = 24;
const UNKNOWN: PaperSize = { width: 420, height: 297 };

/** One page of a PDF, with its measured paper, zoom and search. */
@Component({
  selector: 'fx-page-viewer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatFormField, MatIcon, MatIconButton, MatInput, MatTooltip, PageLinks],
  templateUrl: './page-viewer.html',
  styleUrl: './page-viewer.scss',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class PageViewer {
  readonly file = input.required<PdfFile>();
  /** Page shown, counted from 1. */
  readonly page = model.required<number>();
  /** What is searched for. */
  readonly wanted = model('');
  /** Grows when layers were switched. */
  readonly layersTurn = input(0);
  /** A link to another file was followed. */
  readonly fileAskedFor = output<{ path: string; page: number }>();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly table = viewChild.required<ElementRef<HTMLElement>>('table');
  private readonly search = viewChild.required<ElementRef<HTMLInputElement>>('search');
  protected readonly painting = signal(true);
  private readonly hitAt = signal(0);
  private readonly sized = resource({
    params: () => ({ file: this.file(), page: this.page() }),
    loader: ({ params }) => params.file.paper(params.page),
  });
  protected readonly paper = computed(() => (this.sized.hasValue() ? this.sized.value() : undefined));
  protected readonly paperWords = computed(() => (this.paper() ? paperInWords(this.paper()!) : ''));
  private readonly viewport = new PaperViewport(
    computed(() => this.paper() ?? UNKNOWN),
    { around: MARGIN_PX, maxZoom: MAX_ZOOM },
  );
  /** Of the page as it is shown, CSS pixels. */
  readonly size = computed(() => {
    const paper = this.paper();
    if (!paper || !this.viewport.measured()) return undefined;
    const pixelsPerMm = this.viewport.pixelsPerMm();
    return { width: paper.width * pixelsPerMm, height: paper.height * pixelsPerMm };
  });
  private readonly found = resource({
    params: () => ({ file: this.file(), wanted: this.wanted() }),
    loader: ({ params }) => params.file.find(params.wanted),
  });
  private readonly hits = computed<readonly Hit[]>(() => (this.found.hasValue() ? this.found.value() : []));
  protected readonly hitsHere = computed(() => this.hits().filter((hit) => hit.page === this.page()));
  protected readonly current = computed(() => this.hits()[this.hitAt()]);
  protected readonly foundWords = computed(() => {
    if (this.wanted().trim() === '') return '';
    const count = this.hits().length;
    return count ? `${this.hitAt() + 1} of ${countOf(count, 'place')}` : 'not in this file';
  });

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => destroyed.onDestroy(this.viewport.attach(this.table().nativeElement, movesPage)));
    effect(() => {
      const size = this.size();
      this.layersTurn();
      if (size) void this.paint(this.file(), this.page(), size.width);
    });
    effect(() => {
      const hits = this.hits();
      if (hits.length === 0) return;
      const here = hits.findIndex(({ page }) => page >= untracked(this.page));
      this.showHit(Math.max(0, here));
    });
  }

  protected turn(by: number): void {
    this.page.update((page) => Math.max(1, Math.min(this.file().pageCount, page + by)));
  }

  protected follow(to: LinkEnd): void {
    if (to.kind === 'page') this.page.set(to.page);
    else if (to.kind === 'file') this.fileAskedFor.emit(to);
  }

  protected showWhole(): void {
    this.viewport.whole();
  }

  /** As large as it will be printed. */
  protected showTrue(): void {
    this.viewport.scaleTo(screenPixelsPerMm());
  }

  protected larger(): void {
    this.viewport.zoomBy(STEP);
  }

  protected smaller(): void {
    this.viewport.zoomBy(1 / STEP);
  }

  protected look(text: string): void {
    this.hitAt.set(0);
    this.wanted.set(text);
  }

  protected nextHit(by: number): void {
    const count = this.hits().length;
    if (count > 0) this.showHit((this.hitAt() + by + count) % count);
  }

  protected onKey(event: KeyboardEvent): void {
    const shortcut = isTyping(event) ? undefined : shortcutOf(event, LIGHT_TABLE_KEYS);
    if (!shortcut) return;
    event.preventDefault();
    switch (shortcut) {
      case 'next':
        return this.turn(1);
      case 'previous':
        return this.turn(-1);
      case 'larger':
        return this.larger();
      case 'smaller':
        return this.smaller();
      case 'whole':
        return this.showWhole();
      case 'trueSize':
        return this.showTrue();
      case 'search':
        return this.search().nativeElement.focus();
    }
  }

  private showHit(at: number): void {
    this.hitAt.set(at);
    this.page.set(this.hits()[at]!.page);
  }

  private async paint(file: PdfFile, page: number, width: number): Promise<void> {
    this.painting.set(true);
    if (await file.paint(page, this.canvas().nativeElement, width)) this.painting.set(false);
  }
}

/** The wheel zooms (with Shift it scrolls as wheels do), and a press anywhere moves the page. */
function movesPage(event: MouseEvent | TouchEvent): boolean {
  return 'touches' in event || (event.type === 'wheel' ? !event.shiftKey : event.button < 2);
}
