import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { DrawingInfo } from '@folvex/contract';
import { MINIATURE } from '@folvex/core';
import { miniatureOf } from '../../ui/miniature';
import { PagePicture } from '../../ui/page-picture';

/** The picture at most, CSS pixels, and the margin that a miniature has over its longer side. */
const MOST = { width: 640, height: 360 };
const MARGIN = MINIATURE.marginMm / MINIATURE.longestMm;

export interface PreviewedFrame {
  /** Position among all frames of the layer. */
  at: number;
  /** Of its sheet; empty where it is left out. */
  number: string;
  skipped: boolean;
  window: [xmin: number, ymin: number, xmax: number, ymax: number];
  /** Degrees by which it is turned to be upright. */
  rotation: number;
}

/**
 * The model of a drawing with frames drawn over it, each with the number that its sheet will get, and the path along which
 * they are numbered. A click on a frame leaves it out, or includes it again.
 */
@Component({
  selector: 'fx-frames-preview',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [PagePicture],
  template: `
    @let size = shape();
    <div class="picture" [style.width.px]="size.width" [style.height.px]="size.height">
      <fx-page-picture
        [source]="source()"
        [width]="size.width"
        [style.height.px]="size.height"
        [name]="'Model of ' + drawing().name"
      />
      <svg [attr.viewBox]="'0 0 ' + size.width + ' ' + size.height" aria-hidden="true">
        <polyline class="path" [attr.points]="path()" />
        @for (frame of drawn(); track frame.at) {
          <g [attr.transform]="frame.turn" [class.skipped]="frame.skipped" (click)="toggled.emit(frame.at)">
            <rect [attr.x]="frame.x" [attr.y]="frame.y" [attr.width]="frame.width" [attr.height]="frame.height" />
            <text
              [attr.x]="frame.x + frame.width / 2"
              [attr.y]="frame.y + frame.height / 2"
              [style.font-size.px]="frame.letters"
            >
              {{ frame.number }}
            </text>
          </g>
        }
      </svg>
    </div>
  `,
  styles: `
    .picture {
      position: relative;
      margin: 0 auto;
    }
    svg {
      position: absolute;
      inset: 0;
    }
    g {
      cursor: pointer;
    }
    rect {
      fill: transparent;
      stroke: var(--fx-on-paper-signal);
      stroke-width: 1.5;
    }
    g:hover rect {
      fill: var(--fx-on-paper-signal);
      fill-opacity: 0.1;
    }
    .skipped rect {
      stroke: #8d8678;
      stroke-dasharray: 3 3;
    }
    .path {
      fill: none;
      stroke: var(--fx-on-paper-signal);
      stroke-width: 1.5;
      stroke-opacity: 0.35;
      stroke-linejoin: round;
    }
    text {
      fill: var(--fx-on-paper-signal);
      stroke: var(--fx-paper);
      stroke-width: 3px;
      paint-order: stroke;
      font-family: var(--fx-label);
      font-weight: 600;
      text-anchor: middle;
      dominant-baseline: central;
    }
  `,
})
export class FramesPreview {
  readonly drawing = input.required<DrawingInfo>();
  readonly frames = input.required<readonly PreviewedFrame[]>();
  /** Position of a frame that was clicked. */
  readonly toggled = output<number>();

  protected readonly source = computed(() => miniatureOf(this.drawing()));
  /** Size of the picture, and pixels to a unit of the drawing. */
  protected readonly shape = computed(() => {
    const [xmin, ymin, xmax, ymax] = this.drawing().extents ?? [0, 0, 1, 1];
    const [width, height] = [xmax - xmin, ymax - ymin];
    const longer = Math.max(width, height) || 1;
    // The margin is a part of the longer side of the picture.
    const around = (longer * MARGIN) / (1 - 2 * MARGIN);
    const scale = Math.min(MOST.width / (width + 2 * around), MOST.height / (height + 2 * around));
    const margin = around * scale;
    return { width: width * scale + 2 * margin, height: height * scale + 2 * margin, scale, margin, xmin, ymax };
  });
  protected readonly drawn = computed(() => {
    const { scale, margin, xmin, ymax } = this.shape();
    return this.frames().map(({ at, skipped, number, window: [x0, y0, x1, y1], rotation }) => {
      const [x, y] = [margin + (x0 - xmin) * scale, margin + (ymax - y1) * scale];
      const [width, height] = [(x1 - x0) * scale, (y1 - y0) * scale];
      // Where the drawing is turned one way to be upright, its frame is turned the other way; y runs down here.
      const turn = `rotate(${rotation} ${x + width / 2} ${y + height / 2})`;
      const letters = Math.max(8, Math.min(16, height / 3, (1.6 * width) / Math.max(1, number.length)));
      return { at, skipped, number, x, y, width, height, turn, letters };
    });
  });
  /** From the middle of each sheet's frame to the next. */
  protected readonly path = computed(() =>
    this.drawn()
      .filter(({ skipped }) => !skipped)
      .map(({ x, y, width, height }) => `${(x + width / 2).toFixed(1)},${(y + height / 2).toFixed(1)}`)
      .join(' '),
  );
}
