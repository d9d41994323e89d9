import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { PaperSize } from '@folvex/core';

/** Numbered ticks stand at least so many CSS pixels apart; the steps between them, mm. */
const APART_PX = 60;
const STEPS = [10, 20, 50, 100, 200, 500, 1000];

/** Rulers in mm along the upper and the left edge of a sheet, counted from its lower left corner. */
@Component({
  selector: 'fx-rulers',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (tick of across(); track tick.mm) {
      <span class="across" [style.left.px]="tick.at">{{ tick.mm }}</span>
    }
    @for (tick of up(); track tick.mm) {
      <span class="up" [style.bottom.px]="tick.at">{{ tick.mm }}</span>
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
      top: -18px;
      padding-left: 3px;
      height: 16px;
      border-left: 1px solid var(--fx-line-strong);
    }
    .up {
      right: calc(100% + 4px);
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

  private readonly step = computed(() => STEPS.find((step) => step * this.pixelsPerMm() >= APART_PX) ?? STEPS.at(-1)!);
  protected readonly across = computed(() => this.ticks(this.paper().width));
  protected readonly up = computed(() => this.ticks(this.paper().height));

  private ticks(length: number): { mm: number; at: number }[] {
    const count = Math.floor(length / this.step()) + 1;
    return Array.from({ length: count }, (_, i) => ({ mm: i * this.step(), at: i * this.step() * this.pixelsPerMm() }));
  }
}
