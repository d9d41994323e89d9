import { CdkDrag, type CdkDragMove } from '@angular/cdk/drag-drop';
import { ScrollingModule, type CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  Injector,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { string } from 'yup';
import { sameValue, type Group, type PaperSize, type ProjectFacts } from '@folvex/core';
import type { PageSource } from '../../../engine/engine';
import { NumberField } from '../../../forms/number-field';
import { TextField } from '../../../forms/text-field';
import type { StripPage } from '../../../state/packages/packages.selectors';
import { selectLaidOutScales } from '../../../state/sheets/sheets.selectors';
import { PagePicture } from '../../../ui/page-picture';
import { arrowStep, isTyping, shortcutOf } from '../../../ui/shortcuts';
import { countOf, paperChoiceInWords, paperOfSheet, scalesInWords } from '../../../ui/words';
import { PAGE_BOARD_KEYS } from '../shortcuts';
import { chooseMoved, choosePage, NO_PAGES, positionBefore, type ChoiceWay, type PagesMove } from './page-choice';

const TILE = { width: 168, height: 158 };
/** Room for the picture of a page, CSS pixels. */
const BAND = { width: 152, height: 108 };
const UNKNOWN: PaperSize = { width: 420, height: 297 };
const ROW_PX = 34;

/** All pages of a package in reading order, as a grid of pictures or as rows, many of them moved at once. */
@Component({
  selector: 'fx-page-board',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CdkDrag, MatButton, NumberField, PagePicture, ScrollingModule, TextField],
  templateUrl: './page-board.html',
  styleUrl: './page-board.scss',
  host: { '(keydown)': 'onKey($event)' },
})
export class PageBoard {
  readonly strip = input.required<readonly StripPage[]>();
  readonly sources = input.required<Readonly<Record<string, PageSource>>>();
  readonly groups = input.required<readonly Group[]>();
  readonly project = input<Pick<ProjectFacts, 'papers'> | null>(null);
  readonly way = input.required<'grid' | 'table'>();
  readonly moved = output<PagesMove>();
  readonly removed = output<ReadonlySet<number>>();
  readonly skipped = output<{ positions: ReadonlySet<number>; skip: boolean }>();

  private readonly laidOut = inject(Store).selectSignal(selectLaidOutScales);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  private readonly viewport = viewChild<CdkVirtualScrollViewport>('viewport');
  private readonly width = signal(900);
  protected readonly band = BAND;
  /** Papers of pages that follow from what they show, once they are painted. */
  private readonly measured = signal<Readonly<Record<string, PaperSize>>>({});
  protected readonly rowPx = computed(() => (this.way() === 'grid' ? TILE.height : ROW_PX));
  protected readonly across = computed(() =>
    this.way() === 'grid' ? Math.max(1, Math.floor(this.width() / TILE.width)) : 1,
  );
  private readonly order = computed(() =>
    this.strip()
      .map(({ id }) => id)
      .join(' '),
  );
  /** The selection after the last move. */
  private expected = NO_PAGES;
  protected readonly choice = linkedSignal({
    source: this.order,
    computation: () => {
      const expected = this.expected;
      this.expected = NO_PAGES;
      return expected;
    },
  });
  /** Positions of the pages that were cut. */
  protected readonly cut = linkedSignal<string, ReadonlySet<number>>({
    source: this.order,
    computation: () => new Set(),
  });
  private readonly groupNames = computed(() => new Map(this.groups().map(({ id, name }) => [id, name])));
  /** The page number at each position; 0 where the page is left out. */
  private readonly places = computed(() => {
    let place = 0;
    return this.strip().map(({ options: { skip } }) => (skip ? 0 : ++place));
  });
  /** The positions in rows, as they are scrolled. */
  protected readonly rows = computed(() => {
    const [{ length }, across] = [this.strip(), this.across()];
    return Array.from({ length: Math.ceil(length / across) }, (_, row) =>
      Array.from({ length: Math.min(across, length - row * across) }, (_, column) => row * across + column),
    );
  });
  protected readonly byIndex = (at: number): number => at;
  protected readonly selectedWords = computed(() => {
    const { size } = this.choice().selected;
    return size > 0 ? `${countOf(size, 'page')} selected` : 'Nothing selected';
  });
  protected readonly none = computed(() => this.choice().selected.size === 0);
  protected readonly firstSelected = computed(() => Math.min(...this.choice().selected) + 1);
  protected readonly allSkipped = computed(() =>
    [...this.choice().selected].every((at) => this.strip()[at]?.options.skip),
  );
  /** Numbers of the pages that the selected ones can be moved after. */
  protected readonly targets = computed(() => {
    const { selected } = this.choice();
    return this.strip().flatMap(({ sheet: { number } }, at) => (selected.has(at) || !number ? [] : [number]));
  });
  protected readonly target = computed(() => {
    const numbers = new Set(this.targets().map((number) => number.toLowerCase()));
    return string().test(
      'page',
      'No other page has this number.',
      (text = '') => text.trim() === '' || numbers.has(text.trim().toLowerCase()),
    );
  });
  /** The position before which the dragged pages would land; null while nothing is dragged. */
  protected readonly dropAt = signal<number | null>(null);

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      const box = this.host.nativeElement;
      const observer = new ResizeObserver(() => this.width.set(box.clientWidth - 40));
      observer.observe(box);
      destroyed.onDestroy(() => observer.disconnect());
    });
  }

  /** What is shown of a page; worked out only for the few in view. */
  protected pageAt(at: number) {
    const { id, sheet, options, extra } = this.strip()[at]!;
    return {
      ...{ id, extra, skip: options.skip ?? false, place: this.places()[at]! },
      ...{ number: sheet.number, title: sheet.title, group: this.groupNames().get(sheet.group) ?? '' },
      paper: sheet.paper ? paperChoiceInWords(sheet.paper) : '',
      scale: extra ? '' : scalesInWords(sheet, this.laidOut()[id]),
      revision: sheet.revision?.index ?? '',
      copies: options.copies ?? 1,
      ...fitted(paperOfSheet(sheet, this.project()) ?? this.measured()[id] ?? UNKNOWN),
    };
  }

  protected measure(id: string, paper: PaperSize): void {
    if (!sameValue(this.measured()[id], paper)) this.measured.update((known) => ({ ...known, [id]: paper }));
  }

  protected press(event: MouseEvent, at: number): void {
    const way: ChoiceWay = event.shiftKey ? 'range' : event.ctrlKey || event.metaKey ? 'also' : 'alone';
    this.choice.update((choice) => choosePage(choice, at, way));
  }

  /** Moves the selected pages, so that the first of them is at a position counted from 1. */
  protected moveTo(position: number): void {
    this.move(this.choice().selected, position - 1);
  }

  protected moveAfter(number: string): void {
    const { selected } = this.choice();
    const wanted = number.trim().toLowerCase();
    const at = this.strip().findIndex(
      ({ sheet }, position) => !selected.has(position) && sheet.number.toLowerCase() === wanted,
    );
    if (at >= 0) this.move(selected, positionBefore(selected, at + 1));
  }

  protected cutSelected(): void {
    this.cut.set(this.choice().selected);
  }

  protected paste(): void {
    const positions = this.cut();
    this.cut.set(new Set());
    this.move(positions, positionBefore(positions, this.choice().at + 1));
  }

  protected remove(): void {
    if (!this.none()) this.removed.emit(this.choice().selected);
  }

  protected skip(): void {
    const before = this.choice();
    this.skipped.emit({ positions: before.selected, skip: !this.allSkipped() });
  }

  /** Drags the page under the pointer, with all other selected pages where it is one of them. */
  protected lift(at: number): void {
    if (!this.choice().selected.has(at)) this.choice.update((choice) => choosePage(choice, at, 'alone'));
  }

  protected drag({ pointerPosition: { x, y } }: CdkDragMove): void {
    const under = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-at]');
    if (!under || !this.host.nativeElement.contains(under)) return this.dropAt.set(null);
    const box = under.getBoundingClientRect();
    const behind = this.way() === 'grid' ? x > box.left + box.width / 2 : y > box.top + box.height / 2;
    this.dropAt.set(Number(under.dataset['at']) + (behind ? 1 : 0));
  }

  protected drop(drag: CdkDrag): void {
    const before = this.dropAt();
    drag.reset();
    this.dropAt.set(null);
    const { selected } = this.choice();
    if (before !== null) this.move(selected, positionBefore(selected, before));
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event)) return;
    const shortcut = shortcutOf(event, PAGE_BOARD_KEYS);
    if (!shortcut) return;
    const { at, selected } = this.choice();
    const last = this.strip().length - 1;
    event.preventDefault();
    switch (shortcut) {
      case 'all':
        return this.choice.set({ selected: new Set(this.strip().keys()), at, anchor: at });
      case 'cut':
        return this.cutSelected();
      case 'paste':
        return this.paste();
      case 'remove':
        return this.remove();
      case 'clear':
        this.cut.set(new Set());
        return this.choice.set({ ...NO_PAGES, at, anchor: at });
      case 'select':
        return this.choice.update((choice) => choosePage(choice, at, 'also'));
      case 'position':
        if (selected.size === 0) this.choice.update((choice) => choosePage(choice, at, 'alone'));
        return this.host.nativeElement.querySelector<HTMLInputElement>('fx-number input')?.select();
      case 'first':
        return this.reach(0, event.shiftKey);
      case 'last':
        return this.reach(last, event.shiftKey);
      case 'step': {
        const [x, up] = arrowStep(event)!;
        return this.reach(Math.max(0, Math.min(last, at + x - up * this.across())), event.shiftKey);
      }
    }
  }

  private reach(at: number, extend: boolean): void {
    this.choice.update((choice) => choosePage(choice, at, extend ? 'range' : 'alone'));
    this.show(at);
  }

  /** Scrolls to a page and puts the focus on it. */
  private show(at: number): void {
    const viewport = this.viewport();
    const row = Math.floor(at / this.across());
    if (viewport) {
      const [from, to] = [viewport.measureScrollOffset(), viewport.measureScrollOffset() + viewport.getViewportSize()];
      const top = row * this.rowPx();
      if (top < from) viewport.scrollToOffset(top);
      else if (top + this.rowPx() > to) viewport.scrollToOffset(top + this.rowPx() - viewport.getViewportSize());
    }
    const find = (): HTMLElement | null => this.host.nativeElement.querySelector(`[data-at="${at}"]`);
    // A page that was out of sight is rendered only after the viewport has scrolled.
    afterNextRender(() => requestAnimationFrame(() => find()?.focus()), { injector: this.injector });
  }

  private move(positions: ReadonlySet<number>, to: number): void {
    if (positions.size === 0) return;
    const first = Math.max(0, Math.min(this.strip().length - positions.size, to));
    this.expected = chooseMoved(first, positions.size);
    this.moved.emit({ positions, to: first });
    this.show(first);
  }
}

/** The size at which a paper fits its room. */
function fitted({ width, height }: PaperSize): PaperSize {
  const scale = Math.min(BAND.width / width, BAND.height / height);
  return { width: Math.round(width * scale), height: Math.round(height * scale) };
}
