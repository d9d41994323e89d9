import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { bytesInWords, estimateBytes, RESOLUTIONS, type PictureFacts } from '@folvex/core';
import { LateChart, type DrawChart } from './late-chart';

/** How much the pictures of a package would take in its files at each resolution, the present choice marked. */
@Component({
  selector: 'fx-size-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [LateChart],
  template: `
    <fx-late-chart caption="File size by picture resolution" [sentence]="sentence()" [height]="170" [draw]="draw()">
      @if (pictures(); as found) {
        @if (found.length > 0) {
          <p>{{ sentence() }}</p>
        } @else {
          <p>No sheet of this package has pictures: resolution changes nothing.</p>
        }
      } @else {
        <p role="status">Looking at the pictures …</p>
      }
    </fx-late-chart>
  `,
})
export class SizeChart {
  /** Of all sheets of the package; null while they are being looked at. */
  readonly pictures = input.required<readonly PictureFacts[] | null>();
  /** Of the recipe; undefined: as many dots as they have. */
  readonly dpi = input.required<number | undefined>();

  private readonly points = computed(() => {
    const pictures = this.pictures() ?? [];
    return RESOLUTIONS.map((dpi) => [dpi, estimateBytes(pictures, dpi)] as [number, number]);
  });
  protected readonly sentence = computed(() => {
    const dpi = this.dpi();
    const bytes = bytesInWords(Math.round(estimateBytes(this.pictures() ?? [], dpi ?? Infinity)));
    return dpi === undefined
      ? `About ${bytes} of pictures, as they came.`
      : `About ${bytes} of pictures at ${dpi} dpi.`;
  });
  protected readonly draw = computed((): DrawChart | null => {
    const [points, dpi] = [this.points(), this.dpi()];
    if (!this.pictures()?.length) return null;
    return async (element) => (await import('./draw-sizes')).drawSizes(element, points, dpi);
  });
}
