import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { numbersFrom, type FrameOrder } from '@folvex/core';
import type { DrawingInfo } from '@folvex/contract';
import { Api, problemOf } from '../../state/api';
import { EditActions, GatherActions } from '../../state/project.actions';
import { projectFeature } from '../../state/project.reducer';
import { selectAllSheets } from '../../state/project.selectors';
import { optionsByName } from '../../ui/choices';
import { countOf } from '../../ui/words';
import { FramesPreview } from './frames-preview';
import { choice } from '../../ui/choice-signal';
import { ChoiceField, type Choosable } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';

/** The frame finder: closed rectangles on a layer become sheets in reading order, numbered, in one step. */
@Component({
  selector: 'fx-frames-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, FramesPreview, MatButton, MatIcon, MatIconButton, RouterLink, TextField],
  templateUrl: './frames-panel.html',
  styleUrl: './frames-panel.scss',
  host: { class: 'fx-side' },
})
export class FramesPanel {
  readonly drawing = input.required<DrawingInfo>();
  readonly closed = output();

  private readonly api = inject(Api);
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
  protected readonly found = rxResource({
    params: () => ({ project: this.project(), drawing: this.drawing().id, order: this.order() }),
    stream: ({ params }) => this.api.frames(params.project, params.drawing, params.order),
  });
  protected readonly layers = computed(() => (this.found.hasValue() ? this.found.value() : []));
  protected readonly layerOptions = computed(() =>
    this.layers().map(({ layer, frames }) => ({
      value: layer,
      words: `${layer} · ${countOf(frames.length, 'frame')}`,
    })),
  );
  protected readonly trouble = computed(() => (this.found.error() ? problemOf(this.found.error()).sentence : ''));
  protected readonly layer = choice(() => this.layers()[0]?.layer ?? '');
  protected readonly first = signal('A-101');
  protected readonly group = choice(() => this.groups()[0]?.id ?? '');
  private readonly frames = computed(() => this.layers().find(({ layer }) => layer === this.layer())?.frames ?? []);
  /** Frames that fill a named paper, with the number that each will get. */
  protected readonly planned = computed(() => {
    const filling = this.frames().flatMap(({ paper, ...frame }) => (paper ? { ...frame, paper } : []));
    const numbers = this.read()
      ? filling.map(({ number }) => number ?? '')
      : numbersFrom(this.first() || '?', filling.length);
    return filling.map(({ window, rotation, paper: { name, orientation, scaleText } }, i) => ({
      number: numbers[i]!,
      words: `${name} ${orientation}, ${scaleText}${rotation ? `, turned upright by ${Math.abs(rotation).toFixed(1)}°` : ''}`,
      window,
      rotation: rotation ?? 0,
    }));
  });
  /** Numbers are those in the frames. */
  protected readonly read = computed(() => this.order() === 'text');
  protected readonly unreadable = computed(() => this.read() && this.planned().some(({ number }) => number === ''));
  protected readonly left = computed(() => this.frames().length - this.planned().length);
  protected readonly taken = computed(() => {
    const numbers = new Set(this.planned().map(({ number }) => number.toLowerCase()));
    return this.sheets().find(({ number }) => numbers.has(number.toLowerCase()))?.number ?? '';
  });
  protected readonly counted = countOf;

  protected readonly justMade = this.store.selectSignal(projectFeature.selectJustMade);

  protected takeBack(): void {
    this.store.dispatch(EditActions.stepAskedFor({ way: 'undo' }));
  }

  protected make(): void {
    const wanted = { layer: this.layer(), order: this.order(), first: this.first().trim(), group: this.group() };
    this.store.dispatch(GatherActions.frameSheetsAskedFor({ drawingId: this.drawing().id, wanted }));
  }
}
