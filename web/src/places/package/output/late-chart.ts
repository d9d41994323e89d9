import { ChangeDetectionStrategy, Component, effect, ElementRef, input, signal, viewChild } from '@angular/core';
import { Fold } from '../../../ui/fold';

/** Draws a chart into an element. Resolves with how to take it away. */
export type DrawChart = (element: HTMLElement) => Promise<() => void>;

/** A chart behind a line of text, drawn only while it is open: charts are heavy to load. */
@Component({
  selector: 'fx-late-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Fold],
  template: `
    <fx-fold [caption]="caption()" [(open)]="open">
      <ng-content />
      <div #chart [hidden]="!draw()" [style.height.px]="height()" role="img" [attr.aria-label]="sentence()"></div>
    </fx-fold>
  `,
  styles: `
    :host ::ng-deep p {
      color: var(--fx-quiet);
    }
    div {
      width: 100%;
    }
  `,
})
export class LateChart {
  readonly caption = input.required<string>();
  /** The chart in words, for those who cannot see it. */
  readonly sentence = input.required<string>();
  readonly height = input.required<number>();
  /** Null where there is nothing to draw. */
  readonly draw = input.required<DrawChart | null>();
  protected readonly open = signal(false);
  private readonly chart = viewChild.required<ElementRef<HTMLElement>>('chart');

  constructor() {
    effect((onCleanup) => {
      const draw = this.draw();
      if (!draw || !this.open()) return;
      const drawn = draw(this.chart().nativeElement);
      onCleanup(() => void drawn.then((dispose) => dispose()));
    });
  }
}
