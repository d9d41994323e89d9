import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  Injector,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatOption, MatSelect, MatSelectTrigger } from '@angular/material/select';
import { MatSort, MatSortHeader, type Sort } from '@angular/material/sort';
import { MatTableModule } from '@angular/material/table';
import { MatTooltip } from '@angular/material/tooltip';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { compareNumbers, type PaperSize, type Sheet } from '@folvex/core';
import { ChoiceField } from '../../forms/choice-field';
import { DateField } from '../../forms/date-field';
import { TextField } from '../../forms/text-field';
import { NoticeActions } from '../../state/notices/notices.actions';
import { omitKey } from '../../state/omit-key';
import { projectFeature } from '../../state/project/project.reducer';
import { SheetEditor } from '../../state/sheets/sheet-editor';
import { selectLaidOutScales } from '../../state/sheets/sheets.selectors';
import { SheetActions } from '../../state/sheets/sheets.actions';
import { remembered } from '../../ui/remembered';
import { arrowStep, isTyping, shortcutOf } from '../../ui/shortcuts';
import { countOf, paperInWords, scalesInWords } from '../../ui/words';
import type { Choice } from './choice';
import { nextCell, type CellPlace, type ListColumn, type SheetRow } from './list-cells';
import { listColumns, type CellEdits } from './list-columns';
import { ListLayout } from './list-layout';
import { pasteCells } from './paste-cells';
import { LIST_KEYS } from './shortcuts';
import { ProjectLinks } from '../../state/project/project-links';

/** Height of a row, CSS pixels. */
const ROW_PX = 32;
/** How far an arrow key moves the edge of a column, CSS pixels. */
const GRIP_STEP_PX = 16;
/** How near to the edge of a column's head it is taken along, CSS pixels. */
const EDGE_PX = 8;

/**
 * The sheets as a table, to compare values and change them in their places; the choice is that of the wall. Only the
 * cell that is being edited has a field.
 */
@Component({
  selector: 'fx-sheet-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    DateField,
    MatCheckbox,
    MatFormField,
    MatOption,
    MatSelect,
    MatSelectTrigger,
    MatSort,
    MatSortHeader,
    MatTableModule,
    MatTooltip,
    RouterLink,
    ScrollingModule,
    TextField,
  ],
  templateUrl: './sheet-list.html',
  styleUrl: './sheet-list.scss',
  host: { '(keydown)': 'onKey($event)', '(paste)': 'paste($event)' },
})
export class SheetList {
  protected readonly to = inject(ProjectLinks).to;
  readonly sheets = input.required<readonly Sheet[]>();
  readonly papers = input.required<Readonly<Record<string, PaperSize>>>();
  readonly deviations = input.required<Readonly<Record<string, string>>>();
  readonly choice = input.required<Choice>();

  private readonly store = inject(Store);
  private readonly editor = inject(SheetEditor);
  private readonly injector = inject(Injector);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  private readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  private readonly viewport = viewChild(CdkVirtualScrollViewport);
  protected readonly rowPx = ROW_PX;
  protected readonly words = signal('');
  protected readonly sorted = signal<Sort>({ active: 'number', direction: 'asc' });
  /** The cell that the keyboard is at. */
  protected readonly at = signal<CellPlace | null>(null);
  private readonly edited = signal<CellPlace | null>(null);
  /** True while what is typed into the edited cell is not right. */
  protected readonly wrong = signal(false);
  protected readonly byId = (_: number, { sheet }: SheetRow): string => sheet.id;
  private readonly edits: CellEdits = {
    set: (sheet, fields) => this.editor.change(sheet.id, fields),
    setField: (sheet, name, value) => {
      const fields = { ...sheet.fields, [name]: value };
      this.editor.change(sheet.id, { fields: value ? fields : omitKey(fields, name) });
    },
    // A new index is another revision: what the last one was about does not go with it.
    revise: (sheet, index, date) => {
      const text = index === sheet.revision?.index ? sheet.revision.text : '';
      this.editor.change(sheet.id, { revision: index === '' ? null : { index, date, text } });
    },
    rescale: (id, scale) => this.store.dispatch(SheetActions.severalEdited({ change: { ids: [id], set: { scale } } })),
  };
  /** All columns; some may not be shown. */
  protected readonly allColumns = computed(() => listColumns(this.facts() ?? {}, this.groups(), this.edits));
  protected readonly layout = inject(ListLayout);
  protected readonly columns = computed(() => this.allColumns().filter(({ key }) => !this.layout.hidden().has(key)));
  protected readonly shownKeys = computed(() => this.columns().map(({ key }) => key));
  protected readonly columnKeys = computed(() => {
    const [first, ...others] = this.shownKeys();
    return ['selected', first!, 'open', ...others];
  });
  private readonly laidOut = this.store.selectSignal(selectLaidOutScales);
  private readonly rowOf = remembered(searchedRow);
  private readonly allRows = computed((): readonly SearchedRow[] => {
    const groups = new Map(this.groups().map(({ id, name }) => [id, name]));
    const laidOut = this.laidOut();
    const [papers, deviations] = [this.papers(), this.deviations()];
    return this.sheets().map((sheet) => {
      const { id, group } = sheet;
      return this.rowOf(sheet, papers[id]!, laidOut[id], groups.get(group) ?? '', deviations[id] ?? '');
    });
  });
  private readonly sortedRows = computed((): readonly SearchedRow[] => {
    const { active, direction } = this.sorted();
    const column = this.allColumns().find(({ key }) => key === active) ?? this.allColumns()[0]!;
    const sign = direction === 'desc' ? -1 : 1;
    return [...this.allRows()].sort(
      ({ row: a }, { row: b }) =>
        sign * (compareNumbers(column.shown(a), column.shown(b)) || compareNumbers(a.sheet.number, b.sheet.number)),
    );
  });
  protected readonly rows = computed((): SheetRow[] => {
    const wanted = this.words().trim().toLowerCase().split(/\s+/);
    return this.sortedRows().flatMap(({ row, text }) => (wanted.every((word) => text.includes(word)) ? [row] : []));
  });
  protected readonly allChosen = computed(() => this.rows().every(({ sheet }) => this.choice().has(sheet.id)));
  protected readonly count = computed(() => {
    const [shown, all] = [this.rows().length, this.sheets().length];
    return shown === all ? countOf(all, 'sheet') : `${shown.toLocaleString('en')} of ${countOf(all, 'sheet')}`;
  });

  /** Selects the rows that are shown, or none where all of them are. */
  protected chooseAll(): void {
    if (this.allChosen()) this.choice().none();
    else this.choice().allOf(this.rowIds());
  }

  protected showColumns(keys: string[]): void {
    this.layout.show(
      keys,
      this.allColumns().map(({ key }) => key),
    );
  }

  /** Dragging the right edge of a column's header resizes the column; a click elsewhere on the header sorts. */
  protected startResize(event: PointerEvent, key: string): void {
    const head = event.currentTarget as HTMLElement;
    if (head.getBoundingClientRect().right - event.clientX > EDGE_PX) return;
    event.preventDefault();
    const [from, width] = [event.clientX, this.layout.width(key)];
    const follow = ({ clientX }: PointerEvent): void => this.layout.resize(key, width + clientX - from);
    head.setPointerCapture(event.pointerId);
    head.addEventListener('pointermove', follow);
    head.addEventListener(
      'lostpointercapture',
      () => {
        head.removeEventListener('pointermove', follow);
        // The end of a drag must not count as a click that sorts.
        const stop = (click: Event): void => click.stopPropagation();
        head.addEventListener('click', stop, { capture: true, once: true });
        setTimeout(() => head.removeEventListener('click', stop, { capture: true }));
      },
      { once: true },
    );
  }

  protected resizeByKey(event: KeyboardEvent, key: string): void {
    const [dx] = arrowStep(event) ?? [0];
    if (dx === 0 || !event.shiftKey) return;
    event.preventDefault();
    event.stopPropagation();
    this.layout.resize(key, this.layout.width(key) + dx * GRIP_STEP_PX);
  }

  protected isAt({ sheet }: SheetRow, { key }: ListColumn): boolean {
    const at = this.at();
    if (at) return at.sheet === sheet.id && at.column === key;
    return sheet.id === this.rows()[0]?.sheet.id && key === this.columns()[0]!.key;
  }

  protected isEdited({ sheet }: SheetRow, { key }: ListColumn): boolean {
    const edited = this.edited();
    return edited?.sheet === sheet.id && edited.column === key;
  }

  protected canEdit(row: SheetRow, column: ListColumn): boolean {
    return column.editable?.(row) ?? true;
  }

  protected valueOf(row: SheetRow, column: ListColumn): string {
    return (column.value ?? column.shown)(row);
  }

  /** A click on a cell edits it; panels of its field are inside the cell, and clicks on them are the field's. */
  protected click({ target }: Event, row: SheetRow, column: ListColumn): void {
    if ((target as HTMLElement).closest('fx-text, fx-choice, fx-date') === null) this.edit(row, column);
  }

  /** Opens the field of a cell, and a choice right away. */
  protected edit(row: SheetRow, column: ListColumn): void {
    if (this.isEdited(row, column) || !this.canEdit(row, column)) return;
    const place = { sheet: row.sheet.id, column: column.key };
    this.wrong.set(false);
    this.edited.set(place);
    this.at.set(place);
    afterNextRender(
      () => {
        const cell = this.cellAt(place);
        cell?.querySelector<HTMLElement>('input, mat-select')?.focus();
        cell?.querySelector<HTMLElement>('.mat-mdc-select-trigger')?.click();
      },
      { injector: this.injector },
    );
  }

  protected choose({ sheet }: SheetRow, column: ListColumn, value: string): void {
    column.edit(sheet, value);
    this.close();
  }

  /** Closes the field of a cell once the focus is elsewhere; what is not right stays open with its reason. */
  protected leave({ currentTarget, relatedTarget }: FocusEvent): void {
    const inside = relatedTarget instanceof Node && (currentTarget as HTMLElement).contains(relatedTarget);
    const inPanel = relatedTarget instanceof Element && relatedTarget.closest('.cdk-overlay-container') !== null;
    if (!inside && !inPanel && !this.wrong()) this.edited.set(null);
  }

  protected onKey(event: KeyboardEvent): void {
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]');
    const place = this.at();
    if (!cell || !place) return;
    const editing = this.edited() !== null;
    const shortcut = shortcutOf(event, LIST_KEYS);
    // While a text is typed, only Enter and Escape are the list's; a choice and a calendar keep all of their keys.
    const inText = editing && cell.querySelector('fx-text') !== null;
    if (!shortcut || (editing && shortcut !== 'stop' && !(inText && shortcut === 'edit'))) return;
    event.preventDefault();
    event.stopPropagation();
    if (shortcut === 'stop') this.close();
    else if (editing) this.goTo(nextCell(place, this.rowIds(), this.keys(), [0, 1]));
    else if (shortcut === 'edit') this.editAt(place);
    else {
      const [dx, dy] = arrowStep(event)!;
      this.goTo(nextCell(place, this.rowIds(), this.keys(), [dx, -dy]));
    }
  }

  private rowIds(): string[] {
    return this.rows().map(({ sheet }) => sheet.id);
  }

  private keys(): string[] {
    return this.shownKeys();
  }

  private editAt(place: CellPlace): void {
    const row = this.rows().find(({ sheet }) => sheet.id === place.sheet);
    const column = this.columns().find(({ key }) => key === place.column);
    if (row && column) this.edit(row, column);
  }

  private goTo(place: CellPlace): void {
    this.at.set(place);
    this.show(this.rowIds().indexOf(place.sheet));
    const cell = this.cellAt(place);
    // At once where it is rendered: the next key may come before the next rendering.
    if (cell) cell.focus();
    else afterNextRender(() => this.cellAt(place)?.focus(), { injector: this.injector });
  }

  /** Brings a row into sight below the head of the table. */
  private show(row: number): void {
    const viewport = this.viewport();
    if (!viewport) return;
    const [from, size] = [viewport.measureScrollOffset(), viewport.getViewportSize()];
    const top = row * ROW_PX;
    if (top < from) viewport.scrollToOffset(top);
    else if (top + 2 * ROW_PX > from + size) viewport.scrollToOffset(top + 2 * ROW_PX - size);
  }

  private close(): void {
    this.wrong.set(false);
    this.edited.set(null);
    const place = this.at();
    // A closing select puts the focus back on itself first.
    if (place) requestAnimationFrame(() => this.cellAt(place)?.focus());
  }

  private cellAt({ sheet, column }: CellPlace): HTMLElement | null {
    return this.host.nativeElement.querySelector(`[data-cell="${CSS.escape(`${sheet} ${column}`)}"]`);
  }

  /** Cells from a spreadsheet program go into the cells from the one at hand, as many as there are. */
  protected paste(event: ClipboardEvent): void {
    const place = this.at();
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (this.edited() || !place || text === '' || isTyping(event)) return;
    event.preventDefault();
    const from = { row: this.rowIds().indexOf(place.sheet), column: this.keys().indexOf(place.column) };
    const pasted = pasteCells(text, from, this.rows(), this.columns());
    for (const { row, column, value } of pasted.edits) column.edit(row.sheet, value);
    const notice = { sentence: pasted.words, failed: pasted.failed };
    if (pasted.words) this.store.dispatch(NoticeActions.noticeShown({ notice }));
  }
}

/** A row with all that can be looked for in it. */
interface SearchedRow {
  row: SheetRow;
  text: string;
}

function searchedRow(
  sheet: Sheet,
  paper: PaperSize,
  laidOut: Parameters<typeof scalesInWords>[1],
  group: string,
  deviations: string,
): SearchedRow {
  const template = sheet.titleBlock ? (sheet.titleBlock.template ?? 'corner') : '';
  const scale = scalesInWords(sheet, laidOut);
  const row: SheetRow = { sheet, paper: paperInWords(paper), scale, template, group, deviations };
  return { row, text: textOf(row) };
}

/** Everything in a row that can be searched for. */
function textOf(row: SheetRow): string {
  const { sheet, paper, scale, group, deviations } = row;
  const own = Object.values(sheet.fields ?? {});
  const all = [
    sheet.number,
    sheet.title,
    paper,
    scale,
    group,
    sheet.revision?.index,
    sheet.revision?.date,
    deviations,
    ...own,
  ];
  return all.filter(Boolean).join(' ').toLowerCase();
}
