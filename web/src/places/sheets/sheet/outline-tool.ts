import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import type { PaperSize } from '@folvex/core';
import { shortcutOf } from '../../../ui/shortcuts';
import { OUTLINE_KEYS } from '../shortcuts';

type Point = [x: number, y: number];
/** So near the first point, in CSS pixels, a click closes the outline. */
const CLOSE_PX = 9;

/** Takes an outline on the sheet, point by point; mm on the paper. Enter or the first point closes it, Escape gives up. */
@Component({
  selector: 'fx-outline-tool',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      tabindex="0"
      aria-label="Points of the outline"
      [attr.viewBox]="'0 0 ' + paper().width + ' ' + paper().height"
      (click)="add($event)"
      (pointermove)="hover.set(at($event))"
      (keydown)="onKey($event)"
    >
      <polyline [attr.points]="line()" />
      @for (point of points(); track $index) {
        <circle
          [class.first]="$first"
          [attr.cx]="point[0]"
          [attr.cy]="paper().height - point[1]"
          [attr.r]="4 / pixelsPerMm()"
        />
      }
    </svg>
    <p role="status">
      {{
        points().length < 3 ? 'Click round what the view is to show.' : 'Enter or the first point closes the outline.'
      }}
      Escape gives up.
    </p>
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
    }
    svg {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      cursor: crosshair;
      outline: none;
    }
    polyline {
      fill: var(--fx-on-paper-signal);
      fill-opacity: 0.08;
      stroke: var(--fx-on-paper-signal);
      stroke-width: 1.5;
      vector-effect: non-scaling-stroke;
    }
    circle {
      fill: var(--fx-on-paper-signal);
    }
    .first {
      fill: var(--fx-paper);
      stroke: var(--fx-on-paper-signal);
      vector-effect: non-scaling-stroke;
    }
    p {
      position: absolute;
      left: 0;
      bottom: calc(100% + 20px);
      padding: var(--fx-gap-1) var(--fx-gap-2);
      background: var(--fx-raised);
    }
  `,
})
export class OutlineTool {
  readonly paper = input.required<PaperSize>();
  readonly pixelsPerMm = input.required<number>();
  readonly drawn = output<Point[]>();
  readonly givenUp = output();

  protected readonly points = signal<Point[]>([]);
  protected readonly hover = signal<Point | null>(null);
  protected readonly line = computed(() => {
    const hover = this.hover();
    const all = hover ? [...this.points(), hover] : this.points();
    return all.map(([x, y]) => `${x},${this.paper().height - y}`).join(' ');
  });
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  constructor() {
    afterNextRender(() => this.host.nativeElement.querySelector('svg')?.focus());
  }

  protected add(event: MouseEvent): void {
    const point = this.at(event);
    const [first] = this.points();
    const near = first && Math.hypot(point[0] - first[0], point[1] - first[1]) * this.pixelsPerMm() < CLOSE_PX;
    if (near && this.points().length >= 3) return this.drawn.emit(this.points());
    this.points.update((points) => [...points, point]);
  }

  protected onKey(event: KeyboardEvent): void {
    const shortcut = shortcutOf(event, OUTLINE_KEYS);
    if (!shortcut || (shortcut === 'close' && this.points().length < 3)) return;
    if (shortcut === 'close') this.drawn.emit(this.points());
    else if (shortcut === 'discard') this.givenUp.emit();
    else this.points.update((points) => points.slice(0, -1));
    event.preventDefault();
    event.stopPropagation();
  }

  protected at(event: MouseEvent): Point {
    const { left, bottom } = this.host.nativeElement.getBoundingClientRect();
    return [(event.clientX - left) / this.pixelsPerMm(), (bottom - event.clientY) / this.pixelsPerMm()];
  }
}
