import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
  viewChildren,
} from '@angular/core';
import type { CompareMode } from '../../state/compare/compare.actions';
import type { ComparedPage } from './page-comparer';

const TURN_MS = 700;

/** Lies over a page and shows how it was. */
@Component({
  selector: 'fx-compare-layer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[attr.data-mode]': 'mode()' },
  template: `
    <canvas #together [hidden]="mode() !== 'together'"></canvas>
    <canvas
      #then
      [hidden]="mode() === 'together' || (mode() === 'turns' && now())"
      [style.clip-path]="mode() === 'line' ? 'inset(0 ' + (100 - at()) + '% 0 0)' : null"
    ></canvas>
    @if (mode() === 'line') {
      <span class="line" [style.left.%]="at()"></span>
    }
    @for (area of compared().areas; track $index) {
      <span
        #place
        class="area"
        [class.current]="$index === current()"
        [style.left.%]="100 * area.left"
        [style.top.%]="100 * area.top"
        [style.width.%]="100 * area.width"
        [style.height.%]="100 * area.height"
      ></span>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
      pointer-events: none;
    }
    canvas {
      position: absolute;
      width: 100%;
      height: 100%;
      background: var(--fx-paper);
    }
    .line {
      position: absolute;
      inset-block: 0;
      width: 0;
      border-left: 2px dashed var(--fx-on-paper-signal);
    }
    .area {
      position: absolute;
      outline: 1px dotted #25231f;
      outline-offset: 2px;

      &.current {
        outline: 2px solid #25231f;
      }
    }
  `,
})
export class CompareLayer {
  readonly compared = input.required<ComparedPage>();
  readonly mode = input.required<CompareMode>();
  /** Where the line is, per cent from the left: before it the page as it was. */
  readonly at = input(50);
  readonly current = input(-1);

  /** In turns: whether the page is shown as it is now. */
  protected readonly now = signal(false);
  private readonly together = viewChild.required<ElementRef<HTMLCanvasElement>>('together');
  private readonly spans = viewChildren<ElementRef<HTMLElement>>('place');
  private readonly then = viewChild.required<ElementRef<HTMLCanvasElement>>('then');

  constructor() {
    effect(() => {
      const { before, differences } = this.compared();
      const [one, other] = [this.then().nativeElement, this.together().nativeElement];
      [one.width, one.height] = [before.width, before.height];
      one.getContext('2d')!.drawImage(before, 0, 0);
      [other.width, other.height] = [differences.width, differences.height];
      other.getContext('2d')!.putImageData(differences, 0, 0);
    });
    effect(() => {
      const chosen = this.spans()[this.current()];
      chosen?.nativeElement.scrollIntoView({ block: 'center', inline: 'center' });
    });
    // Who wants nothing to move turns by hand.
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches;
    const timer = still ? undefined : setInterval(() => this.turn(), TURN_MS);
    inject(DestroyRef).onDestroy(() => clearInterval(timer));
  }

  turn(): void {
    this.now.update((now) => !now);
  }
}
