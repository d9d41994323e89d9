import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { estimatedBytes, RESOLUTIONS, type PictureFacts } from '@folvex/core';
import { bytesInWords } from '../ui/words';

/** How much the pictures of a package would take in its files at each resolution, the present choice marked. */
@Component({
  selector: 'fx-size-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details (toggle)="open.set($any($event.target).open)">
      <summary class="fx-caption">What pictures take at each resolution</summary>
      @if (pictures(); as found) {
        @if (found.length > 0) {
          <p>{{ sentence() }}</p>
        } @else {
          <p>No sheet of this package has pictures: resolution changes nothing.</p>
        }
      } @else {
        <p role="status">Looking at the pictures …</p>
      }
      <div #chart class="chart" [hidden]="!pictures()?.length" role="img" [attr.aria-label]="sentence()"></div>
    </details>
  `,
  styles: `
    p {
      color: var(--fx-quiet);
    }
    .chart {
      width: 100%;
      height: 170px;
    }
  `,
})
export class SizeChart {
  /** Of all sheets of the package; null while they are being looked at. */
  readonly pictures = input.required<readonly PictureFacts[] | null>();
  /** Of the recipe; undefined: as many dots as they have. */
  readonly dpi = input.required<number | undefined>();

  protected readonly open = signal(false);
  private readonly points = computed(() => {
    const pictures = this.pictures() ?? [];
    return RESOLUTIONS.map((dpi) => [dpi, estimatedBytes(pictures, dpi)] as [number, number]);
  });
  protected readonly sentence = computed(() => {
    const dpi = this.dpi();
    const bytes = bytesInWords(Math.round(estimatedBytes(this.pictures() ?? [], dpi ?? Infinity)));
    return dpi === undefined
      ? `About ${bytes} of pictures, as they came.`
      : `About ${bytes} of pictures at ${dpi} dpi.`;
  });
  private readonly chart = viewChild.required<ElementRef<HTMLElement>>('chart');

  constructor() {
    effect((onCleanup) => {
      const [points, dpi, any] = [this.points(), this.dpi(), (this.pictures()?.length ?? 0) > 0];
      if (!any || !this.open()) return;
      let gone = false;
      let dispose = (): void => undefined;
      void import('./draw-sizes').then(({ drawSizes }) => {
        if (!gone) dispose = drawSizes(this.chart().nativeElement, points, dpi);
      });
      onCleanup(() => {
        gone = true;
        dispose();
      });
    });
  }
}
