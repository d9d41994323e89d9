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
} from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatSort, MatSortHeader, type Sort } from '@angular/material/sort';
import { MatTableModule } from '@angular/material/table';
import { MatTooltip } from '@angular/material/tooltip';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  compareNumbers,
  paperNames,
  parseScale,
  templatesOf,
  type Orientation,
  type PaperSize,
  type Sheet,
} from '@folvex/core';
import * as yup from 'yup';
import type { SheetFields } from '@folvex/contract';
import { ChoiceField } from '../../forms/choice-field';
import { DateField } from '../../forms/date-field';
import { TextField } from '../../forms/text-field';
import { projectFeature } from '../../state/project/project.reducer';
import { SheetEditor } from '../../state/sheets/sheet-editor';
import { SheetActions } from '../../state/sheets/sheets.actions';
import { FRAMES, optionsByName } from '../../ui/choices';
import { arrowStep, shortcutOf } from '../../ui/shortcuts';
import { countOf, paperChoiceInWords, paperInWords, scalesInWords, today } from '../../ui/words';
import type { Choice } from './choice';
import { nextCell, type CellPlace, type ListColumn, type SheetRow } from './list-cells';
import { LIST_KEYS } from './shortcuts';
import { ProjectLinks } from '../../state/project/project-links';

const numberSchema = yup.string().matches(/\S/, 'A sheet needs a number.');
const scaleSchema = yup
  .string()
  .test(
    'scale',
    'Write a scale such as 1:50, or fit.',
    (text = '') => text.trim().toLowerCase() === 'fit' || text.includes(',') || parseScale(text) !== undefined,
  );
const ofOwn = ({ sheet }: SheetRow): boolean => !sheet.from;

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
    MatSort,
    MatSortHeader,
    MatTableModule,
    MatTooltip,
    RouterLink,
    TextField,
  ],
  templateUrl: './sheet-list.html',
  styleUrl: './sheet-list.scss',
  host: { '(keydown)': 'onKey($event)' },
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
  protected readonly words = signal('');
  protected readonly sorted = signal<Sort>({ active: 'number', direction: 'asc' });
  /** The cell that the keyboard is at. */
  protected readonly at = signal<CellPlace | null>(null);
  private readonly edited = signal<CellPlace | null>(null);
  /** True while what is typed into the edited cell is not right. */
  protected readonly wrong = signal(false);
  protected readonly byId = (_: number, { sheet }: SheetRow): string => sheet.id;
  protected readonly columns = computed((): readonly ListColumn[] => [
    {
      ...{ key: 'number', heading: 'Number', kind: 'text', schema: numberSchema },
      shown: ({ sheet }) => sheet.number,
      edit: (sheet, value) => this.set(sheet, { number: value.trim() }),
    },
    {
      ...{ key: 'title', heading: 'Title', kind: 'text' },
      shown: ({ sheet }) => sheet.title,
      edit: (sheet, value) => this.set(sheet, { title: value.trim() }),
    },
    {
      ...{ key: 'group', heading: 'Group', kind: 'choice' },
      options: [{ value: '', words: 'No group' }, ...optionsByName(this.groups())],
      shown: ({ group }) => group,
      value: ({ sheet }) => sheet.group,
      edit: (sheet, value) => this.set(sheet, { group: value }),
    },
    {
      ...{ key: 'paper', heading: 'Paper', kind: 'choice' },
      options: this.paperOptions(),
      shown: ({ paper }) => paper,
      value: ({ sheet: { paper } }) => (paper && 'name' in paper ? `${paper.name}|${paper.orientation}` : ''),
      editable: ofOwn,
      edit: (sheet, value) => {
        const [name, orientation] = value.split('|') as [string, Orientation];
        this.set(sheet, { paper: { name, orientation } });
      },
    },
    {
      ...{ key: 'scale', heading: 'Scale', kind: 'text', schema: scaleSchema },
      shown: ({ scale }) => scale,
      editable: ofOwn,
      edit: ({ id }, scale) =>
        this.store.dispatch(SheetActions.severalEdited({ change: { ids: [id], set: { scale: scale.trim() } } })),
    },
    {
      ...{ key: 'revision', heading: 'Rev.', kind: 'text' },
      shown: ({ sheet }) => sheet.revision?.index ?? '',
      edit: (sheet, value) => this.revise(sheet, value.trim(), sheet.revision?.date || today()),
    },
    {
      ...{ key: 'date', heading: 'Date', kind: 'date' },
      shown: ({ sheet }) => sheet.revision?.date ?? '',
      editable: ({ sheet }) => sheet.revision !== undefined,
      edit: (sheet, value) => this.revise(sheet, sheet.revision!.index, value || today()),
    },
    {
      ...{ key: 'template', heading: 'Title block', kind: 'choice' },
      options: [{ value: '', words: 'none' }, ...optionsByName(this.templates())],
      shown: ({ sheet, template }) =>
        sheet.from ? 'as its layout' : (this.templates().find(({ id }) => id === template)?.name ?? ''),
      value: ({ template }) => template,
      editable: ofOwn,
      edit: (sheet, template) =>
        this.set(sheet, { titleBlock: template ? { template, fields: sheet.titleBlock?.fields ?? {} } : null }),
    },
    {
      ...{ key: 'frame', heading: 'Frame', kind: 'choice', options: FRAMES },
      shown: ({ sheet }) => (sheet.from ? 'as its layout' : FRAMES.find(({ value }) => value === sheet.frame)!.words),
      value: ({ sheet }) => sheet.frame,
      editable: ofOwn,
      edit: (sheet, frame) => this.set(sheet, { frame: frame as Sheet['frame'] }),
    },
    ...(this.facts()?.sheetFields ?? []).map((field): ListColumn => ({
      ...{ key: `own ${field.name}`, heading: field.caption, kind: field.kind },
      options: [{ value: '', words: 'none' }, ...(field.choices ?? []).map((one) => ({ value: one, words: one }))],
      shown: ({ sheet }) => sheet.fields?.[field.name] ?? '',
      edit: (sheet, value) => this.setField(sheet, field.name, value.trim()),
    })),
  ]);
  protected readonly columnKeys = computed(() => ['selected', ...this.columns().map(({ key }) => key), 'open']);
  private readonly templates = computed(() => templatesOf(this.facts() ?? {}));
  private readonly paperOptions = computed(() => {
    const names = paperNames(this.facts()?.papers);
    return (['landscape', 'portrait'] as const).flatMap((orientation) =>
      names.map((name) => ({ value: `${name}|${orientation}`, words: paperChoiceInWords({ name, orientation }) })),
    );
  });
  protected readonly rows = computed((): SheetRow[] => {
    const wanted = this.words().trim().toLowerCase().split(/\s+/);
    const groups = new Map(this.groups().map(({ id, name }) => [id, name]));
    const rows = this.sheets().map((sheet): SheetRow => ({
      sheet,
      paper: paperInWords(this.papers()[sheet.id]!),
      scale: scalesInWords(sheet),
      template: sheet.titleBlock ? (sheet.titleBlock.template ?? 'corner') : '',
      group: groups.get(sheet.group) ?? '',
      deviations: this.deviations()[sheet.id] ?? '',
    }));
    const { active, direction } = this.sorted();
    const column = this.columns().find(({ key }) => key === active) ?? this.columns()[0]!;
    return rows
      .filter((row) => wanted.every((word) => textOf(row).includes(word)))
      .sort(
        (a, b) =>
          (direction === 'desc' ? -1 : 1) *
          (compareNumbers(column.shown(a), column.shown(b)) || compareNumbers(a.sheet.number, b.sheet.number)),
      );
  });
  protected readonly count = computed(() => {
    const [shown, all] = [this.rows().length, this.sheets().length];
    return shown === all ? countOf(all, 'sheet') : `${shown} of ${countOf(all, 'sheet')}`;
  });

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
    return this.columns().map(({ key }) => key);
  }

  private editAt(place: CellPlace): void {
    const row = this.rows().find(({ sheet }) => sheet.id === place.sheet);
    const column = this.columns().find(({ key }) => key === place.column);
    if (row && column) this.edit(row, column);
  }

  private goTo(place: CellPlace): void {
    this.at.set(place);
    this.cellAt(place)?.focus();
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

  /** A new index is another revision: what the last one was about does not go with it. */
  private revise(sheet: Sheet, index: string, date: string): void {
    if (index === '') return this.set(sheet, { revision: null });
    const text = index === sheet.revision?.index ? sheet.revision.text : '';
    this.set(sheet, { revision: { index, date, text } });
  }

  private setField(sheet: Sheet, name: string, value: string): void {
    const fields = { ...sheet.fields, [name]: value };
    if (!value) delete fields[name];
    this.set(sheet, { fields });
  }

  private set(sheet: Sheet, fields: Partial<SheetFields>): void {
    this.editor.change(sheet.id, fields);
  }
}

/** Everything of a row that can be looked for. */
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
