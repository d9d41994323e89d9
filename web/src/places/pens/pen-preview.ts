import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import type { Box, PaperSize, PenSchedule } from '@folvex/core';
import { Engine, type PageSource } from '../../engine/engine';
import { arrowStep, shortcutOf } from '../../ui/shortcuts';
import { PREVIEW_KEYS } from './shortcuts';
import { MatSlider, MatSliderThumb } from '@angular/material/slider';

/** Size of the picture, CSS pixels. */
const [WIDE, HIGH] = [440, 430];
const KEY_STEP_PX = 40;

/** A piece of a real sheet at its true size, as it is drawn at the left of a slider and as it prints at its right. */
@Component({
  selector: 'fx-pen-preview',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatSlider, MatSliderThumb],
  template: `
    <div
      class="piece"
      tabindex="0"
      role="img"
      [attr.aria-label]="'A piece of sheet ' + name() + ' before and after'"
      [attr.data-painted]="turns()"
      [style.width.px]="wide"
      [style.height.px]="high"
      (pointerdown)="hold($event)"
      (pointermove)="drag($event)"
      (keydown)="onKey($event)"
    >
      <canvas #before></canvas>
      <canvas #after [style.clip-path]="'inset(0 0 0 ' + split() + '%)'"></canvas>
      <span class="line" [style.left.%]="split()"></span>
      <span class="left fx-caption">as drawn</span>
      <span class="right fx-caption">as it prints</span>
    </div>
    <mat-slider min="0" max="100">
      <input
        matSliderThumb
        aria-label="Share shown as drawn, per cent"
        [value]="split()"
        (valueChange)="split.set($event)"
      />
    </mat-slider>
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-2);
      justify-items: start;
    }
    mat-slider {
      width: calc(100% - 16px);
    }
    .piece {
      position: relative;
      overflow: hidden;
      background: var(--fx-paper);
      box-shadow: var(--fx-sheet-shadow);
      cursor: grab;
      touch-action: none;
    }
    canvas {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
    }
    .line {
      position: absolute;
      top: 0;
      bottom: 0;
      width: 2px;
      margin-left: -1px;
      background: var(--fx-on-paper-signal);
    }
    .fx-caption {
      position: absolute;
      bottom: 4px;
      padding: 1px 5px;
      background: var(--fx-paper);
      color: #625d53;
    }
    .left {
      left: 4px;
    }
    .right {
      right: 4px;
    }
    input {
      width: 100%;
      accent-color: var(--fx-signal);
    }
  `,
})
export class PenPreview {
  readonly source = input.required<PageSource>();
  readonly paper = input.required<PaperSize>();
  /** What is looked at first, mm. */
  readonly middle = input.required<[x: number, y: number]>();
  readonly schedule = input.required<PenSchedule>();
  /** CSS pixels to a millimetre of this screen. */
  readonly pixelsPerMm = input.required<number>();
  readonly name = input.required<string>();

  protected readonly wide = WIDE;
  protected readonly high = HIGH;
  protected readonly split = signal(50);
  protected readonly turns = signal(0);
  private readonly centre = linkedSignal(() => this.middle());
  private readonly part = computed((): Box => {
    const [x, y] = this.centre();
    const [w, h] = [WIDE / this.pixelsPerMm() / 2, HIGH / this.pixelsPerMm() / 2];
    return { xmin: x - w, ymin: y - h, xmax: x + w, ymax: y + h };
  });
  private readonly engine = inject(Engine);
  private readonly before = viewChild.required<ElementRef<HTMLCanvasElement>>('before');
  private readonly after = viewChild.required<ElementRef<HTMLCanvasElement>>('after');
  private turn = 0;

  constructor() {
    effect(() => {
      const wanted = [this.source(), this.part(), this.pixelsPerMm(), this.schedule()] as const;
      untracked(() => void this.paint(...wanted));
    });
  }

  private async paint(source: PageSource, part: Box, pixelsPerMm: number, schedule: PenSchedule): Promise<void> {
    const turn = ++this.turn;
    const scale = pixelsPerMm * devicePixelRatio;
    const [drawn, printed] = [
      await this.engine.paintPart(source, part, scale, 'full'),
      await this.engine.paintPart(source, part, scale, 'full', schedule),
    ];
    if (turn !== this.turn || !drawn.ok || !printed.ok) return;
    for (const [{ nativeElement: canvas }, { picture }] of [
      [this.before(), drawn],
      [this.after(), printed],
    ] as const) {
      [canvas.width, canvas.height] = [picture.width, picture.height];
      canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(picture);
    }
    this.turns.update((turns) => turns + 1);
  }

  protected hold(event: PointerEvent): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }

  protected drag(event: PointerEvent): void {
    if (event.buttons & 1) this.move(-event.movementX, event.movementY);
  }

  protected onKey(event: KeyboardEvent): void {
    if (shortcutOf(event, PREVIEW_KEYS) !== 'pan') return;
    const [dx, dy] = arrowStep(event)!;
    this.move(dx * KEY_STEP_PX, dy * KEY_STEP_PX);
    event.preventDefault();
  }

  private move(dx: number, dy: number): void {
    const scale = this.pixelsPerMm();
    const { width, height } = this.paper();
    this.centre.update(([x, y]) => [
      Math.min(width, Math.max(0, x + dx / scale)),
      Math.min(height, Math.max(0, y + dy / scale)),
    ]);
  }
}
