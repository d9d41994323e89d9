import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import {
  compareNumbers,
  paperNames,
  parseScale,
  templatesOf,
  type Orientation,
  type PaperChoice,
  type PaperSize,
  type Sheet,
} from '@folvex/core';
import type { SheetFields } from '@folvex/contract';
import { ProjectActions, SheetActions } from '../../state/project.actions';
import { projectFeature } from '../../state/project.reducer';
import { SheetEditor } from '../../state/sheet-editor';
import { FRAMES } from '../../ui/choices';
import { shortcutOf } from '../../ui/shortcuts';
import { countOf, paperChoiceInWords, paperInWords, scalesInWords } from '../../ui/words';
import type { Choice } from './choice';
import { LIST_KEYS } from './shortcuts';

/** A sheet as a row of the list. */
interface SheetRow {
  sheet: Sheet;
  paper: string;
  scale: string;
  template: string;
  group: string;
  deviations: string;
}

type Key = 'number' | 'title' | 'group' | 'paper' | 'scale' | 'revision' | 'date';
const HEADINGS: readonly [Key, string][] = [
  ['number', 'Number'],
  ['title', 'Title'],
  ['group', 'Group'],
  ['paper', 'Paper'],
  ['scale', 'Scale'],
  ['revision', 'Rev.'],
  ['date', 'Date'],
];

/** The sheets as a table, to compare values and change them in their places; the choice is that of the wall. */
@Component({
  selector: 'fx-sheet-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink],
  templateUrl: './sheet-list.html',
  styleUrl: './sheet-list.scss',
  host: { '(keydown)': 'onKey($event)' },
})
export class SheetList {
  readonly sheets = input.required<readonly Sheet[]>();
  readonly papers = input.required<Readonly<Record<string, PaperSize>>>();
  readonly deviations = input.required<Readonly<Record<string, string>>>();
  readonly choice = input.required<Choice>();
  readonly opened = output<string>();

  private readonly store = inject(Store);
  private readonly editor = inject(SheetEditor);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  protected readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  protected readonly headings = HEADINGS;
  protected readonly frames = FRAMES;
  protected readonly templates = computed(() => templatesOf(this.facts() ?? {}));
  protected readonly ownFields = computed(() => this.facts()?.sheetFields ?? []);
  protected readonly words = signal('');
  protected readonly sorted = signal<{ key: Key; down: boolean }>({ key: 'number', down: false });
  protected readonly papersOffered = computed(() => {
    const names = paperNames(this.facts()?.papers);
    return (['landscape', 'portrait'] as const).flatMap((orientation) =>
      names.map((name) => ({ key: `${name}|${orientation}`, words: paperChoiceInWords({ name, orientation }) })),
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
    const { key, down } = this.sorted();
    return rows
      .filter((row) => wanted.every((word) => textOf(row).includes(word)))
      .sort(
        (a, b) =>
          (down ? -1 : 1) *
          (compareNumbers(valueOf(a, key), valueOf(b, key)) || compareNumbers(a.sheet.number, b.sheet.number)),
      );
  });
  protected readonly count = computed(() => {
    const [shown, all] = [this.rows().length, this.sheets().length];
    return shown === all ? countOf(all, 'sheet') : `${shown} of ${countOf(all, 'sheet')}`;
  });

  protected sortBy(key: Key): void {
    this.sorted.update((now) => ({ key, down: now.key === key && !now.down }));
  }

  protected paperKey({ paper }: Sheet): string {
    return paper && 'name' in paper ? `${paper.name}|${paper.orientation}` : '';
  }

  protected text(sheet: Sheet, field: 'number' | 'title' | 'group', value: string): void {
    const trimmed = value.trim();
    if (trimmed !== sheet[field] && !(field === 'number' && trimmed === '')) this.set(sheet, { [field]: trimmed });
  }

  protected choosePaper(sheet: Sheet, key: string): void {
    const [name, orientation] = key.split('|') as [string, Orientation];
    if (name) this.set(sheet, { paper: { name, orientation } satisfies PaperChoice });
  }

  protected chooseTemplate(sheet: Sheet, template: string): void {
    const fields = sheet.titleBlock?.fields ?? {};
    this.set(sheet, { titleBlock: template ? { template, fields } : null });
  }

  protected scaleTyped(sheet: Sheet, text: string): void {
    const scale = text.trim();
    if (scale === '' || scale === scalesInWords(sheet)) return;
    if (scale.toLowerCase() !== 'fit' && parseScale(scale) === undefined) {
      const sentence = `"${scale}" is not a scale; write it like 1:50, 1/8" = 1'-0" or fit.`;
      return this.store.dispatch(
        ProjectActions.requestRefused({ problem: { code: 'sheet.scale', sentence, place: { sheet: sheet.number } } }),
      );
    }
    this.store.dispatch(SheetActions.severalEdited({ change: { ids: [sheet.id], set: { scale } } }));
  }

  protected revise(sheet: Sheet, index: string, date: string): void {
    const { revision } = sheet;
    if (index.trim() === (revision?.index ?? '') && date === (revision?.date ?? '')) return;
    if (index.trim() === '') return this.set(sheet, { revision: null });
    if (!/^\d{4}-\d{2}-\d{2}$/.test(date)) return;
    // A new index is another revision: what it is about is not what the last one was about.
    const text = index.trim() === revision?.index ? revision.text : '';
    this.set(sheet, { revision: { index: index.trim(), date, text } });
  }

  protected field(sheet: Sheet, name: string, value: string): void {
    if (value.trim() === (sheet.fields?.[name] ?? '')) return;
    const fields = { ...sheet.fields, [name]: value.trim() };
    if (!value.trim()) delete fields[name];
    this.set(sheet, { fields });
  }

  protected set(sheet: Sheet, fields: Partial<SheetFields>): void {
    this.editor.change(sheet.id, fields);
  }

  /** Enter and the arrows go to the same column of the next row, as in any table. */
  protected onKey(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    const inCell = target.matches('td input:not([type=date]):not([type=checkbox])');
    const shortcut = inCell ? shortcutOf(event, LIST_KEYS) : undefined;
    if (!shortcut) return;
    const cells = [
      ...this.host.nativeElement.querySelectorAll<HTMLElement>(`[data-column="${target.dataset['column']}"]`),
    ];
    cells[cells.indexOf(target) + (shortcut === 'down' ? 1 : -1)]?.focus();
    event.preventDefault();
    event.stopPropagation();
  }
}

function valueOf(row: SheetRow, key: Key): string {
  switch (key) {
    case 'number':
    case 'title':
      return row.sheet[key];
    case 'revision':
      return row.sheet.revision?.index ?? '';
    case 'date':
      return row.sheet.revision?.date ?? '';
    default:
      return row[key];
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
