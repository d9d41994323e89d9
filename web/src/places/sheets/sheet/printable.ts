import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Box, Outside, PaperSize } from '@folvex/core';

/** What of a sheet its plotter cannot print on, and what lies there, over the sheet's picture. */
@Component({
  selector: 'fx-printable',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 ' + paper().width + ' ' + paper().height" aria-hidden="true">
      @if (area().xmin > 0 || area().ymin > 0 || area().xmax < paper().width || area().ymax < paper().height) {
        <rect
          class="limit"
          [attr.x]="area().xmin"
          [attr.y]="paper().height - area().ymax"
          [attr.width]="area().xmax - area().xmin"
          [attr.height]="area().ymax - area().ymin"
        />
      }
      @for (box of outside().boxes; track $index) {
        <rect
          class="lost"
          [attr.x]="box.xmin"
          [attr.y]="paper().height - box.ymax"
          [attr.width]="box.xmax - box.xmin"
          [attr.height]="box.ymax - box.ymin"
        />
      }
    </svg>
  `,
  styles: `
    svg {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      overflow: visible;
      pointer-events: none;
    }
    rect {
      fill: none;
      vector-effect: non-scaling-stroke;
    }
    .limit {
      stroke: #8d8678;
      stroke-dasharray: 10 3 2 3;
    }
    .lost {
      stroke: var(--fx-on-paper-signal);
      stroke-width: 2;
    }
  `,
})
export class Printable {
  readonly paper = input.required<PaperSize>();
  /** mm on the paper, from its lower left corner. */
  readonly area = input.required<Box>();
  readonly outside = input.required<Outside>();
}
