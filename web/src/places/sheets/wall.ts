import { ScrollingModule } from '@angular/cdk/scrolling';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  Injector,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonToggle, MatButtonToggleGroup } from '@angular/material/button-toggle';
import { MatIcon } from '@angular/material/icon';
import { MatSlider, MatSliderThumb } from '@angular/material/slider';
import { Router, RouterLink } from '@angular/router';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { sameValue, type PaperSize, type Sheet } from '@folvex/core';
import { selectPageSources } from '../../state/pages/page-sources';
import { selectDrawingEntities } from '../../state/drawings/drawings.selectors';
import { projectFeature } from '../../state/project/project.reducer';
import {
  selectAllSheets,
  selectLaidOutScales,
  selectOutOfDate,
  selectSheetsByGroup,
} from '../../state/sheets/sheets.selectors';
import { EmptyState } from '../../ui/empty-state';
import { arrowStep, isTyping, shortcutOf } from '../../ui/shortcuts';
import { RowHeights } from '../../ui/rows-scroll';
import { remembered } from '../../ui/remembered';
import { countOf, paperOfSheet, scalesInWords } from '../../ui/words';
import { ChosenPanel } from './chosen-panel';
import { Choice } from './choice';
import { deviationsInWords } from './group-settings';
import { Narrowing } from '../../forms/narrowing';
import { NarrowingFields } from '../../forms/narrowing-fields';
import { SheetList } from './sheet-list';
import { SheetTile } from './sheet-tile';
import { WALL_KEYS } from './shortcuts';
import { layWall, neighbourOf } from './wall-layout';
import { ProjectLinks } from '../../state/project/project-links';

/** Left and right of the sheets, and the scroll bar. */
const MARGINS_PX = 48;
const MIN_ZOOM = 0.1;
const MAX_ZOOM = 1.2;
const UNKNOWN: PaperSize = { width: 420, height: 297 };
/** Shortcuts that work only while a sheet has the focus. */
const TILE_KEYS: readonly string[] = [
  'move',
  'extend',
  'toggle',
  'open',
] satisfies (keyof typeof WALL_KEYS.shortcuts)[];
/** All sheets at relative true size, by group; some are chosen to be put into a package or looked at closely. */
@Component({
  selector: 'fx-wall',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButtonToggle,
    MatButtonToggleGroup,
    ChosenPanel,
    EmptyState,
    MatButton,
    MatIcon,
    MatSlider,
    MatSliderThumb,
    NarrowingFields,
    RouterLink,
    RowHeights,
    ScrollingModule,
    SheetList,
    SheetTile,
  ],
  templateUrl: './wall.html',
  styleUrl: './wall.scss',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class Wall {
  protected readonly to = inject(ProjectLinks).to;
  private readonly store = inject(Store);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  private readonly router = inject(Router);
  protected readonly status = this.store.selectSignal(projectFeature.selectStatus);
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  private readonly laidOut = this.store.selectSignal(selectLaidOutScales);
  private readonly drawings = this.store.selectSignal(selectDrawingEntities);
  private readonly groupsWhole = this.store.selectSignal(selectSheetsByGroup);
  /** What of the sheets is shown. */
  protected readonly narrowing = new Narrowing(
    computed(() => this.groupsWhole().flatMap((group) => group.sheets)),
    computed(() => {
      const entities = this.drawings();
      return { project: this.facts() ?? {}, latest: (id: string) => entities[id]?.version };
    }),
  );
  protected readonly narrowed = signal(false);
  protected readonly groups = computed(() => {
    const shown = new Set(this.narrowing.shown());
    return this.groupsWhole().flatMap((group) => {
      const sheets = group.sheets.filter((sheet) => shown.has(sheet));
      return sheets.length > 0 ? [{ ...group, sheets }] : [];
    });
  });
  private readonly allSheets = this.store.selectSignal(selectAllSheets);
  protected readonly sources = this.store.selectSignal(selectPageSources);
  protected readonly outOfDate = this.store.selectSignal(selectOutOfDate);
  private readonly allGroups = this.store.selectSignal(projectFeature.selectGroups);
  private readonly deviationsOf = remembered(deviationsInWords);
  /** In what sheets deviate from their groups, in words, by sheet. */
  protected readonly deviations = computed(() => {
    const groups = new Map(this.allGroups().map((group) => [group.id, group]));
    return Object.fromEntries(
      this.allSheets().map((sheet) => [sheet.id, this.deviationsOf(sheet, groups.get(sheet.group))]),
    );
  });
  protected readonly sheets = computed(() => this.groups().flatMap((group) => group.sheets));
  protected readonly choice = new Choice(computed(() => this.sheets().map((sheet) => sheet.id)));
  protected readonly chosenSheets = computed(() => this.sheets().filter(({ id }) => this.choice.has(id)));
  protected readonly count = computed(() => this.allSheets().length);
  protected readonly countWords = computed(() => {
    const [shown, all] = [this.sheets().length, this.count()];
    return shown === all
      ? `${countOf(all, 'sheet')} in ${countOf(this.groups().length, 'group')}`
      : `${shown.toLocaleString('en')} of ${countOf(all, 'sheet')}`;
  });
  /** True where they are a list, false where they are pictures on the wall. */
  protected readonly listed = signal(false);
  protected readonly smallest = MIN_ZOOM;
  protected readonly largest = MAX_ZOOM;
  /** CSS pixels for a millimetre of paper. */
  protected readonly zoom = signal(0.3);
  /** Papers that became known only when the page was composed. */
  private readonly measured = signal<Readonly<Record<string, PaperSize>>>({});
  private readonly paperOf = remembered(paperOfSheet);
  protected readonly papers = computed(() => {
    const [measured, facts] = [this.measured(), this.facts()];
    return Object.fromEntries(
      this.sheets().map((sheet) => [sheet.id, this.paperOf(sheet, facts) ?? measured[sheet.id] ?? UNKNOWN]),
    );
  });

  private readonly stage = viewChild.required<ElementRef<HTMLElement>>('stage');
  private readonly list = viewChild(RowHeights);
  /** Width that the sheets may take, CSS pixels. */
  private readonly width = signal(900);
  protected readonly rows = computed(() => layWall(this.groups(), this.papers(), this.zoom(), this.width()));
  protected readonly heights = computed(() => this.rows().map(({ height }) => height));
  protected readonly byIndex = (at: number): number => at;

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      const box = this.stage().nativeElement;
      const observer = new ResizeObserver(() => this.width.set(box.clientWidth - MARGINS_PX));
      observer.observe(box);
      destroyed.onDestroy(() => observer.disconnect());
    });
  }

  protected toggleNarrowing(): void {
    // Fields that are not seen must not narrow.
    this.narrowing.clear();
    this.narrowed.update((narrowed) => !narrowed);
  }

  protected measure(id: string, paper: PaperSize): void {
    if (!sameValue(this.measured()[id], paper)) this.measured.update((known) => ({ ...known, [id]: paper }));
  }

  protected scaleOf(sheet: Sheet): string {
    return scalesInWords(sheet, this.laidOut()[sheet.id]);
  }

  protected click(id: string, event: MouseEvent): void {
    if (event.shiftKey) this.choice.upTo(id);
    else if (event.ctrlKey || event.metaKey) this.choice.toggle(id);
    else this.choice.only(id);
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event)) return;
    const shortcut = shortcutOf(event, WALL_KEYS);
    const onTile = (event.target as HTMLElement).closest('fx-sheet-tile') !== null;
    if (!shortcut || (TILE_KEYS.includes(shortcut) && !onTile)) return;
    event.preventDefault();
    const at = this.choice.cursor();
    switch (shortcut) {
      case 'move':
      case 'extend':
        return this.step(arrowStep(event)!, shortcut === 'extend');
      case 'toggle':
        return at ? this.choice.toggle(at) : undefined;
      case 'open':
        return at ? this.open(at) : undefined;
      case 'all':
        return this.choice.allOrNone();
      case 'none':
        return this.choice.none();
      case 'larger':
        return this.resize(1.2);
      case 'smaller':
        return this.resize(1 / 1.2);
    }
  }

  protected open(id: string): void {
    void this.router.navigate(this.to('sheets', id));
  }

  private step(direction: readonly [number, number], extend: boolean): void {
    const next = neighbourOf(this.rows(), this.choice.cursor() ?? '', direction);
    if (!next) return;
    if (extend) this.choice.upTo(next.id);
    else this.choice.moveTo(next.id);
    this.list()?.strategy.show(next.row);
    const tile = `fx-sheet-tile[data-id="${CSS.escape(next.id)}"]`;
    afterNextRender(() => this.host.nativeElement.querySelector<HTMLElement>(tile)?.focus(), {
      injector: this.injector,
    });
  }

  private resize(factor: number): void {
    this.zoom.update((zoom) => Math.min(MAX_ZOOM, Math.max(MIN_ZOOM, zoom * factor)));
  }
}
