import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { numbersFrom, type FrameOrder } from '@folvex/core';
import type { DrawingInfo } from '@folvex/contract';
import { Lookups } from '../../state/lookups/lookups';
import { DrawingActions } from '../../state/drawings/drawings.actions';
import { EditActions } from '../../state/edits/edits.actions';
import { projectFeature } from '../../state/project/project.reducer';
import { sheetsFeature } from '../../state/sheets/sheets.reducer';
import { selectAllSheets } from '../../state/sheets/sheets.selectors';
import { optionsByName } from '../../ui/choices';
import { countOf } from '../../ui/words';
import { FramesPreview } from './frames-preview';
import { choice } from '../../ui/choice-signal';
import { ChoiceField, type Choosable } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';
import { ProjectLinks } from '../../state/project/project-links';

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
  protected readonly to = inject(ProjectLinks).to;
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

  protected readonly justMade = this.store.selectSignal(sheetsFeature.selectJustMade);

  protected takeBack(): void {
    this.store.dispatch(EditActions.stepAskedFor({ way: 'undo' }));
  }

  protected make(): void {
    const wanted = { layer: this.layer(), order: this.order(), first: this.first().trim(), group: this.group() };
    this.store.dispatch(DrawingActions.frameSheetsAskedFor({ drawingId: this.drawing().id, wanted }));
  }
}
