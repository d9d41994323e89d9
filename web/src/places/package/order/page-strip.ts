import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import {
  ApplicationRef,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  linkedSignal,
  model,
  output,
  signal,
} from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import type { OwnPaper, PaperSize } from '@folvex/core';
import type { PageSource } from '../../../engine/engine';
import type { StripPage } from '../../../state/packages/packages.selectors';
import { PagePicture } from '../../../ui/page-picture';
import { shortcutOf } from '../../../ui/shortcuts';
import { countOf, paperOfSheet } from '../../../ui/words';
import { PAGE_STRIP_KEYS } from '../shortcuts';
import type { PagesMove } from './page-choice';

const BAND_PX = 132;
/** Pages that the strip holds at once; the grid and the table show all of them. */
const MOST_PAGES = 80;
const UNKNOWN: PaperSize = { width: 420, height: 297 };

/** The pages of a package in reading order, at true proportion to each other; moved by hand or by keys. */
@Component({
  selector: 'fx-page-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CdkDrag, CdkDropList, MatButton, MatIcon, MatIconButton, PagePicture],
  templateUrl: './page-strip.html',
  styleUrl: './page-strip.scss',
})
export class PageStrip {
  /** Papers of the project's own. */
  readonly ownPapers = input<OwnPaper[]>([]);
  readonly strip = input.required<readonly StripPage[]>();
  readonly sources = input.required<Readonly<Record<string, PageSource>>>();
  readonly picking = input(false);
  readonly moved = output<PagesMove>();
  /** Positions of the pages to be removed. */
  readonly removed = output<ReadonlySet<number>>();
  readonly pickerToggled = output();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly app = inject(ApplicationRef);
  private readonly measured = signal<Readonly<Record<string, PaperSize>>>({});
  /** The page that the keyboard is at. */
  readonly at = model(0);
  protected readonly counted = countOf;
  protected readonly pages = computed(() => {
    const measured = this.measured();
    const papers = this.strip().map(({ sheet, extra }) => {
      // A space of a drawing has whatever shape it has.
      if (extra?.kind === 'space') return shapedLike(measured[sheet.id]);
      return paperOfSheet(sheet, { papers: this.ownPapers() }) ?? measured[sheet.id] ?? UNKNOWN;
    });
    const tallest = Math.max(1, ...papers.map((paper) => paper.height));
    const scale = BAND_PX / tallest;
    let place = 0;
    return this.strip().map((page, i) => {
      const { width, height } = papers[i]!;
      if (!page.options.skip) place++;
      return { ...page, at: i, place, width: Math.round(width * scale), height: Math.round(height * scale) };
    });
  });

  /** Position of the first page on the strip: the one at hand is always among them. */
  protected readonly first = linkedSignal<{ at: number; count: number }, number>({
    source: () => ({ at: this.at(), count: this.strip().length }),
    computation: ({ at, count }, before) => {
      const first = before?.value ?? 0;
      if (count <= MOST_PAGES) return 0;
      const inside = at >= first && at < first + MOST_PAGES;
      return Math.max(0, Math.min(count - MOST_PAGES, inside ? first : at - MOST_PAGES / 2));
    },
  });
  protected readonly shown = computed(() => this.pages().slice(this.first(), this.first() + MOST_PAGES));
  protected readonly later = computed(() => Math.max(0, this.strip().length - this.first() - MOST_PAGES));

  /** Shows the pages before or after those on the strip. */
  protected turn(by: 1 | -1): void {
    this.at.set(Math.max(0, Math.min(this.strip().length - 1, this.first() + (by > 0 ? MOST_PAGES : -1))));
  }

  protected nameOf({ sheet, options, place }: ReturnType<typeof this.pages>[number], at: number): string {
    const left = options.skip ? `Left out, at ${at + 1}` : `Page ${place}`;
    return `${left}, ${sheet.number} ${sheet.title}`;
  }

  protected measure(id: string, paper: PaperSize): void {
    this.measured.update((known) => ({ ...known, [id]: paper }));
  }

  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    const [from, to] = [this.first() + previousIndex, this.first() + currentIndex];
    if (from !== to) this.moved.emit({ positions: new Set([from]), to });
    this.at.set(to);
  }

  protected onKey(event: KeyboardEvent, index: number): void {
    const last = this.strip().length - 1;
    const shortcut = shortcutOf(event, PAGE_STRIP_KEYS);
    if (!shortcut) return;
    event.preventDefault();
    if (shortcut === 'remove') {
      this.remove(index);
      return this.focus(Math.min(index, last - 1));
    }
    const to = { previous: index - 1, next: index + 1, first: 0, last }[shortcut];
    const target = Math.max(0, Math.min(last, to));
    if (event.shiftKey && target !== index) this.moved.emit({ positions: new Set([index]), to: target });
    this.focus(target);
  }

  protected remove(index: number): void {
    this.removed.emit(new Set([index]));
  }

  private focus(index: number): void {
    this.at.set(index);
    // A held key repeats without waiting for the next rendering: each press is meant for the pages as they are now.
    this.app.tick();
    this.host.nativeElement.querySelectorAll<HTMLElement>('.page')[index - this.first()]?.focus();
  }
}

/** What fits on an A3 in the proportions of something. */
function shapedLike({ width, height }: PaperSize = UNKNOWN): PaperSize {
  const factor = Math.min(UNKNOWN.width / width, UNKNOWN.height / height);
  return { width: width * factor, height: height * factor };
}
