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
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import {
  fitFrame,
  frameFits,
  freeFirst,
  numbersFrom,
  planFrames,
  type FrameFit,
  type FrameOrder,
  type LengthUnit,
} from '@folvex/core';
import type { DrawingInfo } from '@folvex/contract';
import { ChoiceField, type Choosable } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';
import { Lookups } from '../../state/lookups/lookups';
import { DrawingActions } from '../../state/drawings/drawings.actions';
import { projectFeature } from '../../state/project/project.reducer';
import { selectAllSheets } from '../../state/sheets/sheets.selectors';
import { choice } from '../../ui/choice-signal';
import { optionsByName } from '../../ui/choices';
import { countOf, paperChoiceInWords } from '../../ui/words';
import { unitOf } from '../../state/drawings/unit-of';
import { FramesPreview } from './frames-preview';

const FIRST = 'A-101';
const BEST: FrameFit = { by: 'frame' };

/** The frame finder: closed rectangles on a layer become sheets in reading order, numbered, in one step. */
@Component({
  selector: 'fx-frames-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, FramesPreview, MatButton, MatCheckbox, MatIcon, MatIconButton, TextField],
  templateUrl: './frames-panel.html',
  styleUrl: './frames-panel.scss',
  host: { class: 'fx-side' },
})
export class FramesPanel {
  readonly drawing = input.required<DrawingInfo>();
  readonly closed = output();

  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly sheets = this.store.selectSignal(selectAllSheets);
  private readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  protected readonly groupOptions = computed(() => optionsByName(this.groups()));
  protected readonly orders: readonly Choosable<FrameOrder>[] = [
    { value: 'rows', words: 'along rows, from the top' },
    { value: 'columns', words: 'down columns, from the left' },
    { value: 'text', words: 'by the number written in each' },
  ];
  protected readonly order = signal<FrameOrder>('rows');
  protected readonly found = inject(Lookups).of('frames', () => {
    const { id, hash } = this.drawing();
    return { project: this.project(), drawing: id, order: this.order(), hash };
  });
  protected readonly layers = computed(() => this.found.answer() ?? []);
  protected readonly layerOptions = computed(() =>
    this.layers().map(({ layer, frames }) => ({
      value: layer,
      words: `${layer} · ${countOf(frames.length, 'frame')}`,
    })),
  );
  protected readonly trouble = this.found.problem;
  protected readonly layer = choice(() => this.layers()[0]?.layer ?? '');
  protected readonly group = choice(() => this.groups()[0]?.id ?? '');
  private readonly frames = computed(() => this.layers().find(({ layer }) => layer === this.layer())?.frames ?? []);
  private readonly unit = computed(() => unitOf(this.drawing()) as LengthUnit);

  /** Ways to give frames their paper and scale, each with how many frames it fits. */
  protected readonly fitOptions = computed((): Choosable<FrameFit>[] => {
    const [frames, unit] = [this.frames(), this.unit()];
    const best = frames.filter(({ papers }) => papers.length > 0).length;
    const shared = frameFits(frames).map(({ fit, count }) => {
      const what = fit.by === 'scale' ? `all at ${fit.scale}` : `all on ${fit.paper}`;
      const own = fit.by === 'scale' ? frames.filter((frame) => fitFrame(frame, fit, unit)).length - count : 0;
      const others = countOf(own, 'on a paper of its own size', 'on papers of their own size');
      return { value: fit, words: `${what}: ${fitting(count, frames.length)}${own > 0 ? `, ${others}` : ''}` };
    });
    return [{ value: BEST, words: `each as it fits best: ${fitting(best, frames.length)}` }, ...shared];
  });
  protected readonly fit = linkedSignal<readonly Choosable<FrameFit>[], FrameFit>({
    source: this.fitOptions,
    computation: ([best]) => best!.value,
  });
  /** Positions of frames that get no sheet. */
  protected readonly skipped = linkedSignal<unknown, ReadonlySet<number>>({
    source: this.frames,
    computation: () => new Set(),
  });
  private readonly fitted = computed(() => planFrames(this.frames(), this.fit(), this.unit()));
  private readonly planned = computed(() => this.fitted().filter(({ at }) => !this.skipped().has(at)));

  private readonly takenNumbers = computed(() => new Set(this.sheets().map(({ number }) => number.toLowerCase())));
  /** The first number as it was typed; null until then. */
  protected readonly typed = signal<string | null>(null);
  /** A number from which on enough are free, until another one is typed. */
  protected readonly first = computed(
    () => this.typed() ?? freeFirst(FIRST, this.planned().length, this.takenNumbers()),
  );
  /** Numbers are those in the frames. */
  protected readonly read = computed(() => this.order() === 'text');
  private readonly numbers = computed(() => {
    const [planned, frames] = [this.planned(), this.frames()];
    const numbers = this.read()
      ? planned.map(({ at }) => frames[at]!.number ?? '')
      : numbersFrom(this.first() || '?', planned.length);
    return new Map(planned.map(({ at }, i) => [at, numbers[i]!]));
  });
  /** All frames that can become sheets, with the number that each will get; empty for those left out. */
  protected readonly listed = computed(() => {
    const [frames, numbers] = [this.frames(), this.numbers()];
    return this.fitted().map(({ at, paper, scale }) => {
      const { window, rotation = 0 } = frames[at]!;
      const turned = rotation ? `, turned upright by ${Math.abs(rotation).toFixed(1)}°` : '';
      const words = `${paperChoiceInWords(paper)}, ${scale}${turned}`;
      return { at, number: numbers.get(at) ?? '', words, skipped: this.skipped().has(at), window, rotation };
    });
  });
  protected readonly count = computed(() => this.planned().length);
  protected readonly unreadable = computed(() => this.read() && [...this.numbers().values()].includes(''));
  protected readonly unfit = computed(() => this.frames().length - this.fitted().length);
  protected readonly taken = computed(
    () => [...this.numbers().values()].find((number) => this.takenNumbers().has(number.toLowerCase())) ?? '',
  );
  protected readonly counted = countOf;

  protected toggle(at: number): void {
    const skipped = new Set(this.skipped());
    if (!skipped.delete(at)) skipped.add(at);
    this.skipped.set(skipped);
  }

  protected create(): void {
    const wanted = {
      ...{ layer: this.layer(), order: this.order(), first: this.first().trim(), group: this.group() },
      ...{ fit: this.fit(), skipped: [...this.skipped()] },
    };
    this.store.dispatch(DrawingActions.frameSheetsAskedFor({ drawingId: this.drawing().id, wanted }));
  }
}

function fitting(count: number, all: number): string {
  return count === all ? `${all === 1 ? 'it fits' : 'all fit'}` : `${count} of ${all} fit`;
}
