import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Box, PaperSize } from '@folvex/core';

/** Numbered ticks are at least this many CSS pixels apart; the steps between them, mm. */
const APART_PX = 60;
const STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000];
/** Rulers lie along the sheet, or over its edge where that is out of view; CSS pixels. */
const OUTSIDE_PX = 18;
const INSIDE_PX = 2;
const LEFT_PX = 28;

/** Rulers in mm along the upper and the left edge of what is seen of a sheet, counted from its lower left corner. */
@Component({
  selector: 'fx-rulers',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (tick of across(); track tick.mm) {
      <span class="across" [style.left.px]="tick.at" [style.top.px]="top()">{{ tick.mm }}</span>
    }
    @for (tick of up(); track tick.mm) {
      <span class="up" [style.bottom.px]="tick.at" [style.left.px]="left()">{{ tick.mm }}</span>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
      pointer-events: none;
    }
    span {
      position: absolute;
      color: var(--fx-quiet);
      font: 500 11px/1 var(--fx-label);
    }
    .across {
      padding-left: 3px;
      height: 16px;
      border-left: 1px solid var(--fx-line-strong);
    }
    .up {
      width: 24px;
      padding-bottom: 2px;
      border-bottom: 1px solid var(--fx-line-strong);
      text-align: right;
    }
  `,
})
export class Rulers {
  readonly paper = input.required<PaperSize>();
  readonly pixelsPerMm = input.required<number>();
  /** What of the paper is seen, mm. */
  readonly seen = input.required<Box>();

  private readonly step = computed(() => STEPS.find((step) => step * this.pixelsPerMm() >= APART_PX) ?? STEPS.at(-1)!);
  protected readonly across = computed(() => this.ticks(this.seen().xmin, this.seen().xmax));
  protected readonly up = computed(() => this.ticks(this.seen().ymin, this.seen().ymax));
  protected readonly top = computed(() => {
    const beyond = (this.paper().height - this.seen().ymax) * this.pixelsPerMm();
    return beyond > OUTSIDE_PX ? beyond + INSIDE_PX : -OUTSIDE_PX;
  });
  protected readonly left = computed(() => {
    const beyond = this.seen().xmin * this.pixelsPerMm();
    return beyond > LEFT_PX ? beyond + INSIDE_PX : -LEFT_PX;
  });

  private ticks(from: number, to: number): { mm: number; at: number }[] {
    const step = this.step();
    const first = Math.ceil(from / step - 1e-9);
    const count = Math.max(0, Math.floor(to / step + 1e-9) - first + 1);
    return Array.from({ length: count }, (_, i) => ({
      mm: (first + i) * step,
      at: (first + i) * step * this.pixelsPerMm(),
    }));
  }
}
