import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Store } from '@ngrx/store';
import { forkJoin, map, of } from 'rxjs';
import { estimatedBytes, RESOLUTIONS, type Sheet } from '@folvex/core';
import { Api } from '../state/api';
import { projectFeature } from '../state/project.reducer';
import { selectPageSources } from '../state/project.selectors';
import { bytesInWords } from '../ui/words';

/** How much the pictures of a package would take in its files at each resolution, the present choice marked. */
@Component({
  selector: 'fx-size-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details (toggle)="open.set($any($event.target).open)">
      <summary class="fx-caption">What pictures take at each resolution</summary>
      @if (problem()) {
        <p>{{ problem() }}</p>
      } @else if (pictures(); as found) {
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
  readonly sheets = input.required<readonly Sheet[]>();
  /** Of the recipe; undefined: as many dots as they have. */
  readonly dpi = input.required<number | undefined>();

  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly sources = this.store.selectSignal(selectPageSources);
  protected readonly open = signal(false);
  private readonly asked = rxResource({
    params: () => {
      if (!this.open()) return undefined;
      const ids = this.sheets().map(({ id }) => id);
      return { project: this.project(), ids, versions: ids.map((id) => this.sources()[id]?.version).join() };
    },
    stream: ({ params: { project, ids } }) =>
      ids.length === 0
        ? of([])
        : forkJoin(ids.map((id) => this.api.sheetFacts(project, id))).pipe(
            map((all) => all.flatMap(({ pictures }) => pictures)),
          ),
  });
  protected readonly pictures = computed(() => (this.asked.hasValue() ? this.asked.value() : null));
  protected readonly problem = computed(() =>
    this.asked.error() ? 'A sheet of this package cannot be made; see its picture for the reason.' : '',
  );
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
