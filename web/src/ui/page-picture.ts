import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { ColourMode, Problem } from '@folvex/core';
import { Engine, type PageSource } from '../engine/engine';
import { hasBeenVisible } from './visibility';

/** A page as a picture, painted by the engine once it comes into sight, and again when its source or width changes. */
@Component({
  selector: 'fx-page-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas #canvas [class.painted]="painted()" [attr.aria-label]="name()" role="img"></canvas>
    @if (problem(); as problem) {
      <p class="problem" role="alert">{{ problem.sentence }}</p>
    } @else if (!painted()) {
      <div class="fx-skeleton" aria-hidden="true"></div>
    }
  `,
  styles: `
    :host {
      display: block;
      position: relative;
      overflow: hidden;
      background: var(--fx-paper);
    }
    canvas {
      display: block;
      width: 100%;
      height: 100%;
      visibility: hidden;
    }
    canvas.painted {
      visibility: visible;
    }
    .fx-skeleton {
      position: absolute;
      inset: 8%;
      opacity: 0.4;
      /* There may be hundreds, and the browser gives each animated one a layer of its own. */
      animation: none;
    }
    .problem {
      position: absolute;
      inset: 0;
      padding: var(--fx-gap-2);
      color: var(--fx-on-paper-signal);
      font-size: 12px;
      overflow: auto;
    }
  `,
})
export class PagePicture {
  readonly source = input.required<PageSource>();
  /** Width on the screen, CSS pixels. */
  readonly width = input.required<number>();
  /** How its colours are printed. */
  readonly colour = input<ColourMode>('full');
  readonly name = input.required<string>();
  /** The paper, mm, once the page is there. */
  readonly measured = output<{ width: number; height: number }>();

  protected readonly painted = signal(false);
  protected readonly problem = signal<Problem | null>(null);
  private readonly seen = hasBeenVisible('200px');
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly engine = inject(Engine);
  private turn = 0;
  /** What the picture that is shown was painted from; blank before the first. */
  private shown = '';

  constructor() {
    inject(DestroyRef).onDestroy(() => (this.turn = -1));
    effect(() => {
      if (this.seen()) void this.paint(this.source(), this.width(), this.colour());
    });
  }

  private async paint(source: PageSource, width: number, colour: ColourMode): Promise<void> {
    const turn = ++this.turn;
    // A page that changed is shown as it was until it is painted; another one is not.
    if (source.url !== this.shown) {
      this.painted.set(false);
      this.problem.set(null);
    }
    const result = await this.engine.paint(source, Math.max(1, Math.round(width * devicePixelRatio)), colour);
    // A later request overtook this one, or the picture is gone.
    if (turn !== this.turn) return;
    if (!result.ok) return this.problem.set(result.problem);
    const { nativeElement: canvas } = this.canvas();
    canvas.width = result.picture.width;
    canvas.height = result.picture.height;
    canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(result.picture);
    this.problem.set(null);
    this.shown = source.url;
    this.painted.set(true);
    this.measured.emit({ width: result.widthMm, height: result.heightMm });
  }
}
