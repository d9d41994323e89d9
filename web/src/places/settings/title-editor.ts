import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { Store } from '@ngrx/store';
import {
  blockBox,
  BLOCK_PLACES,
  cellBox,
  compareNumbers,
  parseRule,
  type BlockPlace,
  type CellKind,
  templatesOf,
  type TitleCell,
  type TitleTemplate,
} from '@folvex/core';
import { path, ROUTES } from '@folvex/contract';
import type { PageSource } from '../../engine/engine';
import { selectAllDrawings } from '../../state/drawings/drawings.selectors';
import { selectPageSources } from '../../state/pages/page-sources';
import { projectFeature } from '../../state/project/project.reducer';
import { selectAllSheets } from '../../state/sheets/sheets.selectors';
import { optionsByName, sheetOptions } from '../../ui/choices';
import { PagePicture } from '../../ui/page-picture';
import * as yup from 'yup';
import { ChoiceField, type Choosable } from '../../forms/choice-field';
import { NumberField } from '../../forms/number-field';
import { TextField } from '../../forms/text-field';
import { fontOptions } from './lists';
import { choiceOf } from '../../ui/choice-signal';
import { freeCellPlace } from './cell-place';

const PLACES: Readonly<Record<BlockPlace, string>> = {
  corner: 'lower right corner',
  side: 'right side',
  strip: 'lower side',
};
const KINDS: readonly Choosable<CellKind>[] = [
  { value: 'text', words: 'text' },
  { value: 'revisions', words: 'revision table' },
  { value: 'north', words: 'north arrow' },
  { value: 'scaleBar', words: 'scale bar' },
  { value: 'drawing', words: 'logo or key plan' },
];
const GROWTHS: readonly Choosable<'up' | 'down'>[] = [
  { value: 'up', words: 'above those before' },
  { value: 'down', words: 'below those before' },
];
/** What a cell may say: a rule that can be read, with the rule's own sentence otherwise. */
const ruleSchema = yup.string().test('rule', (text = '', context) => {
  const rule = parseRule(text);
  return rule.ok || context.createError({ message: rule.problem.sentence });
});
const LENGTHS = ['left', 'width', 'right', 'bottom', 'height', 'top'] as const;
type Length = (typeof LENGTHS)[number];
const FIELDS = [
  'sheet.number',
  'sheet.title',
  'sheet.scale',
  'sheet.paper',
  'sheet.revision',
  'sheet.date',
  'page',
  'pages',
  'project.number',
  'project.name',
  'project.client',
];
/** Size of a new cell, mm. */
const NEW_CELL = { width: 40, height: 12 };
/** Room for the picture of a block, CSS pixels. */
const [WIDE_PX, HIGH_PX] = [640, 520];

/** A title-block template: its picture on a real sheet, its cells chosen there, and the properties of the chosen one. */
@Component({
  selector: 'fx-title-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatCheckbox, NumberField, PagePicture, TextField],
  templateUrl: './title-editor.html',
  styleUrl: './title-editor.scss',
})
export class TitleEditor {
  readonly template = input.required<TitleTemplate>();
  /** False for a shipped one, which is not changed. */
  readonly own = input.required<boolean>();
  readonly changed = output<TitleTemplate>();

  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly sources = this.store.selectSignal(selectPageSources);
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  private readonly savedSettings = this.store.selectSignal(projectFeature.selectSavedSettings);
  private readonly allSheets = this.store.selectSignal(selectAllSheets);
  private readonly drawings = this.store.selectSignal(selectAllDrawings);
  private readonly sheets = computed(() =>
    this.allSheets()
      .filter(({ from }) => !from)
      .sort((a, b) => compareNumbers(a.number, b.number)),
  );
  /** Whose block is shown: at first a sheet that has this one. */
  private readonly meant = signal('');
  protected readonly sample = computed(() => {
    const all = this.sheets();
    const uses = all.find(({ titleBlock }) => titleBlock && (titleBlock.template ?? 'corner') === this.template().id);
    return all.find(({ id }) => id === this.meant()) ?? uses ?? all[0] ?? null;
  });
  /** The server draws the template as it has it: until a new one is saved, the picture stays that of the one before. */
  private readonly drawable = computed((): PageSource | null => {
    const [sheet, { id }] = [this.sample(), this.template()];
    const saved = templatesOf(this.savedSettings()?.project ?? {}).find((template) => template.id === id);
    if (!sheet || !saved) return null;
    const url = path(ROUTES.templatePage, { project: this.project(), template: id, sheet: sheet.id });
    return { url, version: `${JSON.stringify(saved)} ${this.sources()[sheet.id]?.version}` };
  });
  protected readonly source = linkedSignal<PageSource | null, PageSource | null>({
    source: this.drawable,
    computation: (drawable, before) => drawable ?? before?.value ?? null,
  });
  /** The block as it came out, mm. */
  protected readonly block = linkedSignal({
    source: this.template,
    computation: (template) => {
      const box = blockBox(template, { xmin: 0, ymin: 0, xmax: 390, ymax: 277 });
      return { width: box.xmax - box.xmin, height: box.ymax - box.ymin };
    },
  });
  protected readonly pixelsPerMm = computed(() => {
    const { width, height } = this.block();
    return Math.min(WIDE_PX / width, HIGH_PX / height);
  });
  protected readonly boxes = computed(() => {
    const { width, height } = this.block();
    const all = { xmin: 0, ymin: 0, xmax: width, ymax: height };
    return this.template().cells.map((cell) => cellBox(cell, all));
  });
  protected readonly chosen = choiceOf(
    () => this.template().id,
    (): number | null => null,
  );
  protected readonly cell = computed(() => this.template().cells[this.chosen() ?? -1] ?? null);
  protected readonly kind = computed(() => this.cell()?.kind ?? 'text');
  protected readonly places = BLOCK_PLACES.map((place) => ({ value: place, words: PLACES[place] }));
  protected readonly kinds = KINDS;
  protected readonly growths = GROWTHS;
  protected readonly nameSchema = yup.string().matches(/\S/, 'A title block needs a name.');
  protected readonly ruleSchema = ruleSchema;
  protected readonly fontOptions = computed(() =>
    fontOptions(this.facts()?.typefaces).map(([value, words]) => ({ value, words })),
  );
  protected readonly sheetOptions = computed(() => sheetOptions(this.sheets()));
  protected readonly drawingOptions = computed(() => optionsByName(this.drawings()));
  protected readonly fieldOptions = computed(() => this.offeredFields().map((path) => ({ value: path, words: path })));
  protected readonly lengths = LENGTHS;
  private readonly offeredFields = computed(() => [
    ...FIELDS,
    ...(this.facts()?.sheetFields ?? []).map(({ name }) => `sheet.${name}`),
    ...Object.keys(this.facts()?.fields ?? {}).map((name) => `project.${name}`),
  ]);

  protected look(sheet: string): void {
    this.meant.set(sheet);
  }

  protected measured(size: { width: number; height: number }): void {
    this.block.set(size);
  }

  protected setBlock(some: Partial<TitleTemplate>): void {
    this.changed.emit({ ...this.template(), ...some });
  }

  protected rename(name: string): void {
    this.setBlock({ name: name.trim() });
  }

  protected setCell(some: Partial<TitleCell>): void {
    const at = this.chosen();
    if (at === null) return;
    const cells = this.template().cells.map((cell, i) => (i === at ? pruned({ ...cell, ...some }) : cell));
    this.changed.emit({ ...this.template(), cells });
  }

  protected setLength(length: Length, mm: number | undefined): void {
    const cell = this.cell();
    if (cell) this.setCell({ [length]: mm, ...(mm !== undefined && made(cell, length)) });
  }

  protected insert(field: string): void {
    if (field) this.setCell({ text: `${this.cell()?.text ?? ''}[${field}]` });
  }

  protected add(): void {
    const place = freeCellPlace(this.boxes(), this.block(), NEW_CELL);
    const cell: TitleCell = { ...place, ...NEW_CELL, caption: 'New cell', text: '', size: 2.5 };
    const cells = [...this.template().cells, cell];
    this.changed.emit({ ...this.template(), cells });
    this.chosen.set(cells.length - 1);
  }

  protected remove(): void {
    const at = this.chosen();
    this.changed.emit({ ...this.template(), cells: this.template().cells.filter((_, i) => i !== at) });
    this.chosen.set(null);
  }
}

/** Of three lengths along an axis two say where a cell lies: the third gives way to the one just typed. */
function made(cell: TitleCell, typed: Length): Partial<TitleCell> {
  const axis: Length[] = ['left', 'width', 'right'].includes(typed)
    ? ['left', 'width', 'right']
    : ['bottom', 'height', 'top'];
  const others = axis.filter((length) => length !== typed && cell[length] !== undefined);
  if (others.length < 2) return {};
  const gives = typed === axis[1] ? axis[2]! : typed === axis[0] ? axis[2]! : axis[0]!;
  return { [gives]: undefined };
}

function pruned(cell: TitleCell): TitleCell {
  return Object.fromEntries(
    Object.entries(cell).filter(([, value]) => value !== undefined && value !== ''),
  ) as TitleCell;
}
