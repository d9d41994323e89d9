import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  FRAME_MARKS,
  defaultMargins,
  type FrameMark,
  type Margins,
  type Orientation,
  type PaperSize,
  type Sheet,
} from '@folvex/core';
import type { SheetFields } from '@folvex/contract';
import { ProjectActions } from '../../../state/project.actions';
import { projectFeature } from '../../../state/project.reducer';
import { FRAMES } from '../../../ui/choices';
import { paperInWords, papersInWords } from '../../../ui/words';
import { OwnFields } from '../../../forms/own-fields';
import { TitlePanel } from './title-panel';

const MARKS: readonly [FrameMark, string][] = [
  ['centring', 'Centring marks'],
  ['grid', 'Grid reference'],
  ['trimming', 'Trimming marks'],
  ['folding', 'Folding marks (to A4)'],
];

const A3: PaperSize = { width: 420, height: 297 };
const [SMALLEST_MM, MAX_MM] = [10, 20_000];
const MAX_MARGIN_MM = 200;
const EDGES = ['left', 'bottom', 'right', 'top'] as const;

/** Properties of a sheet as a whole: number, title, paper, frame, title block, revision. */
@Component({
  selector: 'fx-sheet-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [OwnFields, TitlePanel],
  templateUrl: './sheet-panel.html',
  styleUrl: './panel.scss',
})
export class SheetPanel {
  readonly sheet = input.required<Sheet>();
  /** As it came out. */
  readonly paper = input.required<PaperSize | null>();
  readonly changed = output<Partial<SheetFields>>();

  private readonly store = inject(Store);
  protected readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  protected readonly frames = FRAMES;
  protected readonly marks = MARKS;
  protected readonly edges = EDGES;
  protected readonly orientation = computed((): Orientation => {
    const paper = this.paper();
    return paper && paper.height > paper.width ? 'portrait' : 'landscape';
  });
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  protected readonly papers = computed(() => papersInWords(this.orientation(), this.facts()?.papers));
  protected readonly named = computed(() => {
    const { paper } = this.sheet();
    return paper && 'name' in paper ? paper.name : '';
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
    if (name === 'own') this.changed.emit({ paper: { size: [width, height] } });
    else this.changed.emit({ paper: name === '' ? null : { name, orientation: this.orientation() } });
  }

  protected sizeTyped(width: number | string, height: number | string): void {
    const [w, h] = [width, height].map((side) => Number(String(side).replace(',', '.'))) as [number, number];
    const fits = (side: number): boolean => side >= SMALLEST_MM && side <= MAX_MM;
    if (fits(w) && fits(h)) return this.changed.emit({ paper: { size: [w, h] } });
    const sentence = `A paper is ${SMALLEST_MM} to ${MAX_MM} mm wide and high; correct the size of ${this.sheet().number}.`;
    this.store.dispatch(ProjectActions.requestRefused({ problem: { code: 'paper.size', sentence, place: {} } }));
  }

  protected lay(orientation: Orientation): void {
    const { paper } = this.sheet();
    const now = this.paper();
    if (paper && 'name' in paper) this.changed.emit({ paper: { name: paper.name, orientation } });
    else if (now && orientation !== this.orientation()) this.changed.emit({ paper: { size: [now.height, now.width] } });
  }

  protected chooseFrame(frame: string): void {
    this.changed.emit({ frame: frame as Sheet['frame'] });
  }

  protected ownMargins(on: boolean): void {
    this.changed.emit({ margins: on ? defaultMargins(this.sheet().frame) : null });
  }

  protected marginTyped(at: number, text: string): void {
    const value = Number(text.replace(',', '.'));
    const margins = this.sheet().margins;
    if (margins && text.trim() !== '' && value >= 0 && value <= MAX_MARGIN_MM) {
      return this.changed.emit({ margins: margins.map((one, i) => (i === at ? value : one)) as Margins });
    }
    const sentence = `A margin is 0 to ${MAX_MARGIN_MM} mm; the ${EDGES[at]} one of ${this.sheet().number} stays as it was.`;
    this.store.dispatch(ProjectActions.requestRefused({ problem: { code: 'paper.margin', sentence, place: {} } }));
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

  protected revise(index: string, date: string, text: string, author: string): void {
    if (index.trim() === '') {
      if (this.sheet().revision) this.changed.emit({ revision: null });
    } else if (/^\d{4}-\d{2}-\d{2}$/.test(date)) {
      const by = author.trim() ? { author: author.trim() } : {};
      this.changed.emit({ revision: { index: index.trim(), date, text: text.trim(), ...by } });
    }
  }
}
