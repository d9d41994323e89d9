import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { Store } from '@ngrx/store';
import {
  FRAME_MARKS,
  defaultMargins,
  type FrameMark,
  type Margins,
  type Orientation,
  type PaperSize,
  type Revision,
  type Sheet,
  SHEET_SIDE_MM,
} from '@folvex/core';
import type { SheetFields } from '@folvex/contract';
import { projectFeature } from '../../../state/project/project.reducer';
import { FRAMES, ORIENTATIONS, optionsByName } from '../../../ui/choices';
import { paperInWords, papersInWords, today } from '../../../ui/words';
import * as yup from 'yup';
import { ChoiceField } from '../../../forms/choice-field';
import { DateField } from '../../../forms/date-field';
import { NumberField } from '../../../forms/number-field';
import { OwnFields } from '../../../forms/own-fields';
import { TextField } from '../../../forms/text-field';
import { TitlePanel } from './title-panel';

const MARKS: readonly [FrameMark, string][] = [
  ['centring', 'Centring marks'],
  ['grid', 'Grid reference'],
  ['trimming', 'Trimming marks'],
  ['folding', 'Folding marks (to A4)'],
];

/** Stands for a paper that is none of the named ones. */
const OWN_SIZE = 'own';
const A3: PaperSize = { width: 420, height: 297 };
const MAX_MARGIN_MM = 200;
const EDGES = ['Left margin', 'Bottom margin', 'Right margin', 'Top margin'] as const;
const NO_REVISION: Revision = { index: '', date: '', text: '' };

/** Properties of a sheet as a whole: number, title, paper, frame, title block, revision. */
@Component({
  selector: 'fx-sheet-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, DateField, MatButton, MatCheckbox, NumberField, OwnFields, TextField, TitlePanel],
  templateUrl: './sheet-panel.html',
  styleUrl: './panel.scss',
})
export class SheetPanel {
  readonly sheet = input.required<Sheet>();
  /** As it came out. */
  readonly paper = input.required<PaperSize | null>();
  readonly changed = output<Partial<SheetFields>>();

  private readonly store = inject(Store);
  private readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  protected readonly groupOptions = computed(() => [{ value: '', words: 'No group' }, ...optionsByName(this.groups())]);
  protected readonly numberSchema = yup.string().matches(/\S/, 'A sheet needs a number.');
  protected readonly orientations = ORIENTATIONS;
  protected readonly minSide = SHEET_SIDE_MM.min;
  protected readonly maxSide = SHEET_SIDE_MM.max;
  protected readonly maxMargin = MAX_MARGIN_MM;
  protected readonly frames = FRAMES;
  protected readonly marks = MARKS;
  protected readonly edges = EDGES;
  protected readonly orientation = computed((): Orientation => {
    const paper = this.paper();
    return paper && paper.height > paper.width ? 'portrait' : 'landscape';
  });
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  protected readonly paperOptions = computed(() => [
    { value: '', words: 'smallest that fits' },
    ...papersInWords(this.orientation(), this.facts()?.papers).map(({ name, words }) => ({ value: name, words })),
    { value: OWN_SIZE, words: 'own size' },
  ]);
  protected readonly paperChoice = computed(() => {
    const { paper } = this.sheet();
    if (!paper) return '';
    return 'name' in paper ? paper.name : OWN_SIZE;
  });
  /** The present revision; what is typed stays here until it has an index. */
  protected readonly revision = linkedSignal<Sheet, Revision>({
    source: this.sheet,
    computation: ({ revision }, before) =>
      revision ?? (before?.source.id === this.sheet().id && !before.source.revision ? before.value : NO_REVISION),
  });
  protected readonly words = computed(() => {
    const paper = this.paper();
    return paper ? paperInWords(paper) : '';
  });

  protected text(field: 'number' | 'title' | 'group', value: string): void {
    const trimmed = value.trim();
    if (trimmed === this.sheet()[field] || (field === 'number' && trimmed === '')) return;
    this.changed.emit({ [field]: trimmed });
  }

  /** Width and height where the paper is none of the named ones, mm. */
  protected readonly own = computed(() => {
    const { paper } = this.sheet();
    return paper && 'size' in paper ? paper.size : null;
  });

  protected choosePaper(name: string): void {
    const { width, height } = this.paper() ?? A3;
    if (name === OWN_SIZE) this.changed.emit({ paper: { size: [width, height] } });
    else this.changed.emit({ paper: name === '' ? null : { name, orientation: this.orientation() } });
  }

  protected setSize(width: number | undefined, height: number | undefined): void {
    if (width !== undefined && height !== undefined) this.changed.emit({ paper: { size: [width, height] } });
  }

  protected setOrientation(orientation: Orientation): void {
    const { paper } = this.sheet();
    const now = this.paper();
    if (paper && 'name' in paper) this.changed.emit({ paper: { name: paper.name, orientation } });
    else if (now && orientation !== this.orientation()) this.changed.emit({ paper: { size: [now.height, now.width] } });
  }

  protected ownMargins(on: boolean): void {
    this.changed.emit({ margins: on ? defaultMargins(this.sheet().frame) : null });
  }

  protected setMargin(at: number, mm: number | undefined): void {
    const { margins } = this.sheet();
    if (!margins || mm === undefined) return;
    this.changed.emit({ margins: margins.map((one, i) => (i === at ? mm : one)) as Margins });
  }

  protected has(mark: FrameMark): boolean {
    return this.sheet().marks?.includes(mark) ?? false;
  }

  protected setMark(mark: FrameMark, on: boolean): void {
    const others = (this.sheet().marks ?? []).filter((one) => one !== mark);
    const marks = FRAME_MARKS.filter((one) => others.includes(one) || (on && one === mark));
    this.changed.emit({ marks: marks.length > 0 ? marks : null });
  }

  /** Takes an earlier revision away, such as one that a corrected index left behind. */
  protected dropRevision(at: number): void {
    const revisions = (this.sheet().revisions ?? []).filter((_, i) => i !== at);
    this.changed.emit({ revisions: revisions.length > 0 ? revisions : null });
  }

  /** Changes the present revision; one without a date gets that of today, and without an index there is none. */
  protected revise(change: Partial<Revision>): void {
    const { author, ...typed } = { ...this.revision(), ...change };
    const [index, text, by] = [typed.index.trim(), typed.text.trim(), author?.trim()];
    this.revision.set({ index, date: typed.date, text, ...(by && { author: by }) });
    if (index) this.changed.emit({ revision: { index, date: typed.date || today(), text, ...(by && { author: by }) } });
    else if (this.sheet().revision) this.changed.emit({ revision: null });
  }
}
