import {
  afterNextRender,
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
  type Signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonToggle, MatButtonToggleGroup } from '@angular/material/button-toggle';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { MatButton, MatIconButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import {
  apply,
  areaForViews,
  predictPlacing,
  inverse,
  movedTo,
  plottersOf,
  sameValue,
  type Note,
  type NoteKind,
  type PaperSize,
  type View,
} from '@folvex/core';
import type { SheetFacts, SheetFields } from '@folvex/contract';
import { ChoiceField } from '../../../forms/choice-field';
import { ComposedPages } from '../../../state/composed/composed-pages';
import { selectAllDrawings, selectDrawingEntities } from '../../../state/drawings/drawings.selectors';
import { NoticeActions } from '../../../state/notices/notices.actions';
import { selectPageSources } from '../../../state/pages/page-sources';
import { projectFeature } from '../../../state/project/project.reducer';
import { SheetEditor } from '../../../state/sheets/sheet-editor';
import { selectEditedSheets } from '../../../state/sheets/sheets.selectors';
import { optionsByName } from '../../../ui/choices';
import { arrowStep, isTyping, shortcutOf } from '../../../ui/shortcuts';
import { countOf, paperInWords } from '../../../ui/words';
import { SHEET_KEYS } from '../shortcuts';
import { PaperViewport } from '../../../ui/paper-viewport';
import { FindingSteps } from './finding-steps';
import { NotePanel } from './note-panel';
import { movedNote, newNote, noteId, noteName, notesOn, NOTE_OFFERS, shownId } from './notes';
import { OutlineTool } from './outline-tool';
import { PlacedViews, type PlacedBox } from './placed-views';
import { Printable } from './printable';
import { Rulers } from './rulers';
import { SheetPicture, type DraggedItem } from './sheet-picture';
import { SheetPanel } from './sheet-panel';
import { ViewPanel } from './view-panel';
import { ProjectLinks } from '../../../state/project/project-links';

/** Room around the sheet for its rulers, CSS pixels. */
const AROUND = 44;
/** What of a sheet is taken by a finger itself. */
const TAKEN = 'fx-placed-views .view, fx-outline-tool';

/** Ways to see the sheet. */
const WAYS = [
  ['working', 'Working'],
  ['greys', 'Greys'],
  ['printed', 'As printed'],
] as const;
const UNKNOWN: PaperSize = { width: 420, height: 297 };
/** One sheet at true proportions: its views are placed, scaled, turned and labelled; what is seen is what is printed. */
@Component({
  selector: 'fx-sheet-place',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    FindingSteps,
    MatButtonToggle,
    MatButtonToggleGroup,
    MatButton,
    MatIcon,
    MatIconButton,
    NotePanel,
    OutlineTool,
    PlacedViews,
    Printable,
    RouterLink,
    Rulers,
    SheetPanel,
    SheetPicture,
    ViewPanel,
  ],
  templateUrl: './sheet-place.html',
  styleUrl: './sheet-place.scss',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class SheetPlace {
  protected readonly to = inject(ProjectLinks).to;
  /** Id of the sheet, from the address. */
  readonly sheet = input.required<string>();

  /** The field to be filled in, from the address: a finding leads to it. */
  readonly field = input<string>();

  private readonly store = inject(Store);
  private readonly editor = inject(SheetEditor);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly projectFacts = this.store.selectSignal(projectFeature.selectFacts);
  private readonly sheets = this.store.selectSignal(selectEditedSheets);
  private readonly sources = this.store.selectSignal(selectPageSources);
  private readonly drawingEntities = this.store.selectSignal(selectDrawingEntities);
  protected readonly status = this.store.selectSignal(projectFeature.selectStatus);
  private readonly drawings = this.store.selectSignal(selectAllDrawings);
  /** The sheet with what was just changed of it; its picture is of the saved one. */
  protected readonly shown = computed(() => this.sheets()[this.sheet()] ?? null);
  protected readonly source = computed(() => this.sources()[this.sheet()]);
  protected readonly latest = inject(ComposedPages).one(() => {
    const source = this.source();
    return source && { id: this.sheet(), version: source.version };
  });
  /** How the sheet last came out; the last answer stays until the next is there. */
  protected readonly facts = linkedSignal<{ sheet: string; latest: SheetFacts | null }, SheetFacts | null>({
    source: () => ({ sheet: this.sheet(), latest: this.latest() }),
    computation: ({ sheet, latest }, before) => latest ?? (before?.source.sheet === sheet ? before.value : null),
  });
  protected readonly paper = computed(() => this.facts()?.paper ?? UNKNOWN);
  protected readonly paperWords = computed(() => (this.facts() ? paperInWords(this.paper()) : ''));
  /** Where each view lies; one that was just changed, where it will. */
  protected readonly placed = computed(() => {
    const composed = new Map(this.facts()?.views.map((view) => [view.id, view]));
    return (this.shown()?.views ?? []).flatMap((view): PlacedBox[] => {
      const last = composed.get(view.id);
      return last ? [{ id: view.id, ...predictPlacing(view, last) }] : [];
    });
  });
  /** Views, and the notes that lie above them. */
  protected readonly onPaper = computed(() => [
    ...this.placed(),
    ...notesOn(this.shown()?.notes ?? [], this.facts()?.notes ?? []),
  ]);
  protected readonly area = computed(() => {
    const sheet = this.shown();
    const { frame = 'none' as const, margins, titleBlock } = sheet ?? {};
    const lies = { frame, titleBlock, ...(margins && { margins }) };
    return areaForViews(this.paper(), lies, this.projectFacts() ?? {});
  });
  protected readonly names = computed(() =>
    Object.fromEntries([
      ...(this.shown()?.views ?? []).map((view) => [
        view.id,
        view.label || this.drawingEntities()[view.drawing]?.name || view.id,
      ]),
      ...(this.shown()?.notes ?? []).map((note) => [shownId(note.id), noteName(note)]),
    ]),
  ) as Signal<Record<string, string>>;
  protected readonly locked = computed(
    () => new Set((this.shown()?.views ?? []).flatMap(({ id, locked }) => (locked ? [id] : []))),
  );
  /** The drawing, and the window or layout of it, that a view is to be added of. */
  protected readonly wanted = signal('');
  protected readonly wantedWindow = signal('');
  protected readonly drawingOptions = computed(() => optionsByName(this.drawings()));
  protected readonly windowOptions = computed(() => {
    const { windows = [], layouts = [] } = this.wantedDrawing() ?? {};
    return [
      { value: '', words: 'the whole model' },
      ...windows.map(({ name }) => ({ value: `window ${name}`, words: `window ${name}` })),
      ...layouts.map(({ name }) => ({ value: `layout ${name}`, words: `layout ${name}` })),
    ];
  });
  protected readonly wantedDrawing = computed(() => this.drawingEntities()[this.wanted()] ?? null);
  /** The view whose outline is being drawn. */
  protected readonly outlining = signal<string | null>(null);
  protected readonly plotter = computed(() => {
    const project = this.projectFacts();
    return plottersOf(project ?? {}).find(({ id }) => id === project?.plotter)?.name ?? 'the paper';
  });
  protected readonly counted = countOf;
  protected readonly ways = WAYS;
  protected readonly noteOffers = NOTE_OFFERS;
  protected readonly shownId = shownId;
  protected readonly seen = signal<(typeof WAYS)[number][0]>('working');
  /** Id of the chosen view; another sheet begins with none. */
  protected readonly chosen = linkedSignal<string, string | null>({ source: this.sheet, computation: () => null });
  protected readonly chosenView = computed(() => this.shown()?.views.find(({ id }) => id === this.chosen()) ?? null);
  protected readonly chosenNote = computed(
    () => this.shown()?.notes?.find(({ id }) => id === noteId(this.chosen())) ?? null,
  );
  protected readonly chosenPlaced = computed(() => this.placed().find(({ id }) => id === this.chosen()) ?? null);
  protected readonly chosenDrawing = computed(() => {
    const view = this.chosenView();
    return (view && this.drawingEntities()[view.drawing]) ?? null;
  });
  private readonly desk = viewChild.required<ElementRef<HTMLElement>>('desk');
  protected readonly looking = new PaperViewport(this.paper, { around: AROUND });
  /** What is being dragged, and how far it has come. */
  protected readonly lifted = signal<DraggedItem | null>(null);

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      const { nativeElement: desk } = this.desk();
      destroyed.onDestroy(this.looking.attach(desk, (event) => movesSheet(event, desk)));
    });
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // Once for each sheet: after filling it in, the user goes on to something else.
    const told = computed(() => ({ sheet: this.shown()?.id, field: this.field() }), { equal: sameValue });
    afterRenderEffect(() => {
      const { sheet, field } = told();
      if (sheet === undefined || field === undefined) return;
      const selector = `[data-field="${CSS.escape(field)}"] :is(input, textarea, mat-select)`;
      host.querySelector<HTMLElement>(selector)?.focus();
    });
    afterRenderEffect(() => {
      this.shown();
      untracked(() => this.looking.settle());
    });
  }

  protected change(fields: Partial<SheetFields>): void {
    this.editor.change(this.sheet(), fields);
  }

  protected changeView(changed: View): void {
    const views = this.shown()?.views.map((view) => (view.id === changed.id ? changed : view));
    if (views) this.change({ views });
  }

  protected changeNote(changed: Note): void {
    this.change({ notes: (this.shown()?.notes ?? []).map((note) => (note.id === changed.id ? changed : note)) });
  }

  protected addNote(kind: NoteKind): void {
    const sheet = this.shown();
    if (!sheet) return;
    const { xmin, ymin, xmax, ymax } = this.area();
    const middle: [number, number] = [(xmin + xmax) / 2, (ymin + ymax) / 2];
    const note = newNote(kind, sheet.notes ?? [], middle, sheet.revision?.index ?? '');
    this.change({ notes: [...(sheet.notes ?? []), note] });
    this.chosen.set(shownId(note.id));
  }

  protected beginOutline(view: string): void {
    this.seen.set('working');
    this.outlining.set(view);
  }

  /** Cuts the view by an outline drawn on the paper. */
  protected outline(points: [x: number, y: number][]): void {
    const id = this.outlining();
    const toPaper = this.facts()?.views.find((view) => view.id === id)?.toPaper;
    const view = this.shown()?.views.find((one) => one.id === id);
    this.outlining.set(null);
    if (!toPaper || !view) return;
    const back = inverse(toPaper);
    const rounded = (value: number): number => Number(value.toPrecision(12));
    this.changeView({ ...view, outline: points.map(([x, y]) => apply(back, x, y).map(rounded) as [number, number]) });
  }

  protected put({ id, x, y }: { id: string; x: number; y: number }): void {
    const note = this.shown()?.notes?.find((one) => one.id === noteId(id));
    const box = this.onPaper().find((one) => one.id === id)?.box;
    if (note && box) return this.changeNote(movedNote(note, x - box.xmin, y - box.ymin));
    const view = this.shown()?.views.find((one) => one.id === id);
    if (view) this.changeView(movedTo(view, x, y));
  }

  protected choose(drawing: string): void {
    this.wanted.set(drawing);
    this.wantedWindow.set('');
  }

  /** Adds a view of a drawing: of its model, or of a `window …` or `layout …` of that name. */
  protected add(drawing: string, window: string): void {
    const info = this.drawingEntities()[drawing];
    const sheet = this.shown();
    if (!info || !sheet) return;
    const taken = new Set(sheet.views.map(({ id }) => id));
    const id = Array.from({ length: taken.size + 1 }, (_, i) => `v${i + 1}`).find((name) => !taken.has(name))!;
    const named = info.windows.find(({ name }) => `window ${name}` === window);
    const layout = info.layouts.find(({ name }) => `layout ${name}` === window);
    const view: View = {
      id,
      drawing,
      space: layout?.name ?? 'model',
      window: named?.window ?? 'extents',
      scale: 'fit',
      at: 'centre',
      layersOff: [],
      label: named?.name ?? '',
    };
    this.change({ views: [...sheet.views, view] });
    this.chosen.set(id);
  }

  protected remove(): void {
    const id = this.chosen();
    const note = noteId(id);
    if (note !== null) {
      const notes = (this.shown()?.notes ?? []).filter((one) => one.id !== note);
      this.chosen.set(null);
      return this.change({ notes: notes.length > 0 ? notes : null });
    }
    const views = this.shown()?.views.filter((view) => view.id !== id);
    if (!views || id === null) return;
    this.chosen.set(null);
    this.change({ views });
  }

  private tellLocked({ id }: View): void {
    const sentence = `View ${this.names()[id] ?? id} is locked; unlock it in its panel first.`;
    this.store.dispatch(NoticeActions.requestRefused({ problem: { code: 'view.locked', sentence, place: {} } }));
  }

  protected onKey(event: KeyboardEvent): void {
    const shortcut = isTyping(event) ? undefined : shortcutOf(event, SHEET_KEYS);
    if (!shortcut || !this.runShortcut(shortcut, event)) return;
    event.preventDefault();
  }

  /** False where the shortcut needs a selected view or note and there is none. */
  private runShortcut(shortcut: keyof typeof SHEET_KEYS.shortcuts, event: KeyboardEvent): boolean {
    switch (shortcut) {
      case 'move':
      case 'moveFar':
        return this.moveSelected(arrowStep(event)!, shortcut === 'moveFar' ? 10 : 1);
      case 'remove':
        return this.removeSelected();
      case 'deselect':
        this.chosen.set(null);
        return true;
      case 'zoomIn':
        this.looking.zoomBy(1.25);
        return true;
      case 'zoomOut':
        this.looking.zoomBy(0.8);
        return true;
      case 'whole':
        this.looking.whole();
        return true;
    }
  }

  private moveSelected([dx, dy]: readonly [number, number], mm: number): boolean {
    const [view, placed, note] = [this.chosenView(), this.chosenPlaced(), this.chosenNote()];
    if (view?.locked) this.tellLocked(view);
    else if (note) this.changeNote(movedNote(note, dx * mm, dy * mm));
    else if (view && placed) this.changeView(movedTo(view, placed.box.xmin + dx * mm, placed.box.ymin + dy * mm));
    else return false;
    return true;
  }

  private removeSelected(): boolean {
    const view = this.chosenView();
    if (view?.locked) this.tellLocked(view);
    else if (view || this.chosenNote()) this.remove();
    else return false;
    return true;
  }
}

/**
 * Whether an event moves or zooms the sheet: the wheel (with Shift it scrolls as wheels do), the middle button, two
 * fingers, and the first button or one finger where they take no view or note.
 */
function movesSheet(event: MouseEvent | TouchEvent, desk: HTMLElement): boolean {
  if ('touches' in event) return event.touches.length > 1 || !(event.target as Element).closest(TAKEN);
  if (event.type === 'wheel') return !event.shiftKey;
  return event.button === 1 || (event.button === 0 && event.target === desk);
}
