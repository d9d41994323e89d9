import { CdkDrag, CdkDropList, CdkDropListGroup } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { from } from 'rxjs';
import {
  compareNumbers,
  freeId,
  type PenSchedule,
  penScheduleSchema,
  type ProblemCode,
  rulesFromCsv,
  rulesToCsv,
  schedulesOf,
  SHIPPED_SCHEDULES,
} from '@folvex/core';
import { Engine, type LineCount } from '../../engine/engine';
import { ComposedPages } from '../../state/composed/composed-pages';
import { selectAllDrawings } from '../../state/drawings/drawings.selectors';
import { NoticeActions } from '../../state/notices/notices.actions';
import { selectPageSources } from '../../state/pages/page-sources';
import { SettingsActions } from '../../state/project/project.actions';
import { SettingsEditor } from '../../state/project/settings-editor';
import { selectAllSheets } from '../../state/sheets/sheets.selectors';
import { Rows, type Row } from '../../forms/rows';
import { optionsByName, sheetOptions } from '../../ui/choices';
import { saveFile } from '../../state/save-file';
import { keepScreenPixelsPerMm, screenPixelsPerMm } from '../../ui/screen';
import { shortcutOf } from '../../ui/shortcuts';
import { countOf } from '../../ui/words';
import { LADDER_KEYS } from './shortcuts';
import { ladderOf, nextRung, withWeight, type LadderLayer } from './ladder';
import { PenPreview } from './pen-preview';
import { BLANK_RULE, RULE_COLUMNS, ruleOfRow, ruleRow } from './rule-rows';
import { choiceOf } from '../../ui/choice-signal';
import { MatButtonToggle, MatButtonToggleGroup } from '@angular/material/button-toggle';
import { MatTooltip } from '@angular/material/tooltip';
import { ChoiceField } from '../../forms/choice-field';
import { NumberField } from '../../forms/number-field';
import { TextField } from '../../forms/text-field';
import { Fold } from '../../ui/fold';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';

/** Length of the line that is measured, CSS pixels. */
const MEASURED_PX = 300;

/** Line weights as a ladder, next to part of a real sheet before and after, and the rules behind it. */
@Component({
  selector: 'fx-pens-place',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    CdkDrag,
    CdkDropList,
    CdkDropListGroup,
    ChoiceField,
    Fold,
    MatButton,
    MatButtonToggle,
    MatButtonToggleGroup,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    MatTooltip,
    NumberField,
    PenPreview,
    Rows,
    TextField,
  ],
  templateUrl: './pens-place.html',
  styleUrl: './pens-place.scss',
})
export class PensPlace {
  private readonly store = inject(Store);
  private readonly editor = inject(SettingsEditor);
  private readonly engine = inject(Engine);
  private readonly allSheets = this.store.selectSignal(selectAllSheets);
  private readonly drawings = this.store.selectSignal(selectAllDrawings);
  private readonly sources = this.store.selectSignal(selectPageSources);
  protected readonly counted = countOf;
  protected readonly facts = this.editor.facts;
  protected readonly seen = signal<'ladder' | 'rules'>('ladder');
  private readonly schedules = computed(() => schedulesOf(this.facts() ?? {}));
  protected readonly scheduleOptions = computed(() => optionsByName(this.schedules()));
  private readonly own = computed(() => this.facts()?.penSchedules ?? []);
  private readonly wanted = signal('');
  protected readonly schedule = computed(
    () => this.schedules().find(({ id }) => id === this.wanted()) ?? this.own()[0] ?? SHIPPED_SCHEDULES[1]!,
  );
  protected readonly isOwn = computed(() => this.own().some(({ id }) => id === this.schedule().id));
  /** Names of the recipes that print with the schedule. */
  private readonly users = computed(() =>
    this.editor
      .recipes()
      .filter(({ pens }) => pens === this.schedule().id)
      .map(({ name }) => name),
  );
  protected readonly usedWords = computed(() =>
    this.users().length > 0 ? `Used by ${this.users().join(', ')}` : 'Used by no recipe',
  );
  private readonly sheets = computed(() => [...this.allSheets()].sort((a, b) => compareNumbers(a.number, b.number)));
  protected readonly sheetOptions = computed(() => sheetOptions(this.sheets()));
  private readonly lookedAt = signal('');
  protected readonly sheet = computed(() => {
    const all = this.sheets();
    return all.find(({ id }) => id === this.lookedAt()) ?? all.find(({ views }) => views.length > 0) ?? all[0] ?? null;
  });
  protected readonly source = computed(() => this.sources()[this.sheet()?.id ?? ''] ?? null);
  private readonly askedLines = rxResource({
    params: () => this.source() ?? undefined,
    stream: ({ params }) => from(this.engine.linesUsed(params)),
  });
  /** The lines of the sheet; while they are counted anew, those counted last stay, so that the ladder does not blink. */
  protected readonly lines = linkedSignal<{ sheet?: string; latest: LineCount[] | null }, LineCount[]>({
    source: () => ({
      sheet: this.sheet()?.id,
      latest: this.askedLines.hasValue() ? this.askedLines.value() : null,
    }),
    computation: ({ sheet, latest }, before) => latest ?? (before && before.source.sheet === sheet ? before.value : []),
  });
  private readonly sheetFacts = inject(ComposedPages).one(() => {
    const [sheet, source] = [this.sheet(), this.source()];
    return sheet && source ? { id: sheet.id, version: source.version } : undefined;
  });
  protected readonly paper = computed(() => this.sheetFacts()?.paper ?? null);
  protected readonly middle = computed((): [number, number] => {
    const facts = this.sheetFacts();
    const box = facts?.views[0]?.box;
    if (box) return [(box.xmin + box.xmax) / 2, (box.ymin + box.ymax) / 2];
    return facts ? [facts.paper.width / 2, facts.paper.height / 2] : [0, 0];
  });
  protected readonly rungs = computed(() => ladderOf(this.lines(), this.schedule()));
  protected readonly chosen = choiceOf(
    () => this.sheet()?.id,
    (): LadderLayer | null => null,
  );
  /** The chosen layer as it hangs now. */
  protected readonly picked = computed(() => {
    const layer = this.chosen()?.layer;
    return (
      this.rungs()
        .flatMap(({ hanging }) => hanging)
        .find((one) => one.layer === layer) ?? null
    );
  });
  /** Numbers of the sheets that show the chosen layer: those that a change touches. */
  protected readonly touched = computed(() => {
    const layer = this.picked()?.layer.toLowerCase();
    if (layer === undefined) return [];
    const having = new Set(
      this.drawings()
        .filter(({ layers }) => layers.some(({ name }) => name.toLowerCase() === layer))
        .map(({ id }) => id),
    );
    return this.sheets()
      .filter(({ views, from: taken }) => {
        const shown = views.some(
          ({ drawing, layersOff }) => having.has(drawing) && !layersOff.some((name) => name.toLowerCase() === layer),
        );
        return shown || (taken !== undefined && having.has(taken.drawing));
      })
      .map(({ number }) => number);
  });
  protected readonly columns = RULE_COLUMNS;
  protected readonly blank = BLANK_RULE;
  protected readonly rows = computed(() => this.schedule().rules.map(ruleRow));
  protected readonly measured = MEASURED_PX;
  protected readonly pixelsPerMm = signal(screenPixelsPerMm());

  protected choose(id: string): void {
    this.wanted.set(id);
  }

  protected chooseSheet(id: string): void {
    this.lookedAt.set(id);
  }

  protected calibrate(mm: number | undefined): void {
    if (mm === undefined) return;
    this.pixelsPerMm.set(MEASURED_PX / mm);
    keepScreenPixelsPerMm(MEASURED_PX / mm);
  }

  protected roundedLength(): number {
    return Math.round((MEASURED_PX / this.pixelsPerMm()) * 10) / 10;
  }

  protected onKey(event: KeyboardEvent, hanging: LadderLayer): void {
    const shortcut = shortcutOf(event, LADDER_KEYS);
    if (!shortcut) return;
    event.preventDefault();
    this.hang(hanging, nextRung(hanging.weight, shortcut === 'heavier' ? 1 : -1));
  }

  /** Hangs a layer on another rung; a shipped schedule stays as it is, and a copy of it is changed instead. */
  protected hang(hanging: LadderLayer, weight: number): void {
    const line = this.lines().find(({ layer }) => layer === hanging.layer);
    if (!line || Math.abs(weight - hanging.weight) < 1e-9) return;
    this.chosen.set(hanging);
    this.keep(withWeight(this.schedule(), line, weight));
  }

  protected setRules(rows: Row[]): void {
    this.keep({ ...this.schedule(), rules: rows.map(ruleOfRow) });
  }

  protected rename(name: string): void {
    if (name.trim() && this.isOwn()) this.keep({ ...this.schedule(), name: name.trim() });
  }

  protected copy(): void {
    this.addCopy(this.schedule());
  }

  protected remove(): void {
    const { id, name } = this.schedule();
    const [user] = this.users();
    if (user) return this.refuse('pens.used', `The recipe ${user} prints with ${name}; give it other pens first.`);
    this.editor.changeFacts({ penSchedules: this.own().filter((one) => one.id !== id) });
  }

  protected save(format: 'json' | 'csv'): void {
    const { name, rules } = this.schedule();
    const text = format === 'csv' ? rulesToCsv(rules) : JSON.stringify(this.schedule(), null, 2);
    saveFile(`${name}.${format}`, format === 'csv' ? 'text/csv' : 'application/json', text);
  }

  protected async read(field: HTMLInputElement): Promise<void> {
    const file = field.files?.[0];
    if (!file) return;
    const text = await file.text();
    field.value = '';
    const name = file.name.replace(/\.[^.]*$/, '');
    const found = /^\s*\{/.test(text) ? fromJson(text, name) : fromCsv(text, name);
    if (typeof found === 'string') this.refuse('pens.file', `${file.name}: ${found}`);
    else this.add(found);
  }

  private keep(schedule: PenSchedule): void {
    if (!this.isOwn()) return this.addCopy(schedule);
    this.editor.changeFacts({ penSchedules: this.own().map((one) => (one.id === schedule.id ? schedule : one)) });
  }

  private add(schedule: PenSchedule): string {
    const id = freeId(schedule.name, this.schedules());
    this.editor.changeFacts({ penSchedules: [...this.own(), { ...schedule, id }] });
    this.wanted.set(id);
    return id;
  }

  /** A copy is used by no recipe yet: those that print with the original can have it at once. */
  private addCopy({ id: original, name, ...rest }: PenSchedule): void {
    const using = this.users();
    const pens = this.add({ ...rest, id: original, name: `${name}, ours` });
    if (using.length === 0) return;
    const now = this.editor.recipes();
    const recipes = now.map((recipe) => (recipe.pens === original ? { ...recipe, pens } : recipe));
    const what = using.length === 1 ? `The recipe ${using[0]!} still prints` : `${using.length} recipes still print`;
    const dispatch = SettingsActions.settingsEdited({ change: { recipes, was: { recipes: now } } });
    const notice = { sentence: `${what} with ${name}.`, failed: false };
    this.store.dispatch(
      NoticeActions.noticeShown({ notice: { ...notice, action: { words: 'Use the copy instead', dispatch } } }),
    );
  }

  private refuse(code: ProblemCode, sentence: string): void {
    this.store.dispatch(NoticeActions.requestRefused({ problem: { code, sentence, place: {} } }));
  }
}

/** A schedule from its JSON, or what is wrong with it. */
function fromJson(text: string, name: string): PenSchedule | string {
  try {
    return penScheduleSchema.validateSync({ id: 'read', name, ...(JSON.parse(text) as object) }) as PenSchedule;
  } catch (error) {
    return `${(error as Error).message}; correct it there.`;
  }
}

function fromCsv(text: string, name: string): PenSchedule | string {
  const read = rulesFromCsv(text);
  return read.ok ? { id: 'read', name, rules: read.rules } : read.sentence;
}
