import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import type { Box, ColourMode, PaperSize, Problem } from '@folvex/core';
import { Engine, type PageSource } from '../../../engine/engine';

/** Painted beyond what is seen, over its size, so that a little panning shows nothing blank. */
const BEYOND = 0.15;

/** Something of the picture that is being moved by hand: where it was, and how far it has come, mm. */
export interface DraggedItem {
  box: Box;
  dx: number;
  dy: number;
}

interface Part {
  source: PageSource;
  box: Box;
  scale: number;
  colour: ColourMode;
}

/**
 * The picture of a sheet, of which only what is seen is painted, as sharp as the screen shows it. The last picture
 * moves and grows with the sheet at once; the next is painted behind, in a thread of its own.
 */
@Component({
  selector: 'fx-sheet-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas #canvas role="img" [class.painted]="painted()" [attr.aria-label]="name()" [style]="place()"></canvas>
    <canvas #ghost class="ghost" aria-hidden="true" [hidden]="!lifted()" [style]="ghostPlace()"></canvas>
    @if (problem(); as problem) {
      <p role="alert">{{ problem.sentence }}</p>
    } @else if (!painted()) {
      <div class="fx-skeleton" aria-hidden="true"></div>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
      overflow: hidden;
      background: var(--fx-paper);
    }
    canvas {
      position: absolute;
      visibility: hidden;
    }
    canvas.painted,
    .ghost:not([hidden]) {
      visibility: visible;
    }
    .ghost {
      opacity: 0.8;
      pointer-events: none;
      mix-blend-mode: multiply;
    }
    .fx-skeleton {
      position: absolute;
      inset: 8%;
      opacity: 0.4;
    }
    p {
      position: absolute;
      inset: 0;
      padding: var(--fx-gap-4);
      color: var(--fx-on-paper-signal);
      overflow: auto;
    }
  `,
  host: { '[attr.data-painted]': 'turns()', '[attr.data-took]': 'took()' },
})
export class SheetPicture {
  readonly source = input.required<PageSource>();
  readonly paper = input.required<PaperSize>();
  readonly pixelsPerMm = input.required<number>();
  /** What of the paper is seen, mm. */
  readonly seen = input.required<Box>();
  readonly colour = input<ColourMode>('full');
  readonly lifted = input<DraggedItem | null>(null);
  readonly name = input.required<string>();

  protected readonly painted = signal<Part | null>(null);
  /** How many pictures came, the last one of which is what is wanted. */
  protected readonly turns = signal(0);
  /** How long the last one took to paint, ms; read by measurements. */
  protected readonly took = signal(0);
  protected readonly problem = signal<Problem | null>(null);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly ghost = viewChild.required<ElementRef<HTMLCanvasElement>>('ghost');
  private readonly engine = inject(Engine);
  private gone = false;
  private busy = false;
  private wanted: Part | null = null;

  protected readonly place = computed(() => {
    const part = this.painted();
    return part ? this.styleOf(part.box) : {};
  });
  protected readonly ghostPlace = computed(() => {
    const lifted = this.lifted();
    if (!lifted) return {};
    const { box, dx, dy } = lifted;
    return this.styleOf({ xmin: box.xmin + dx, xmax: box.xmax + dx, ymin: box.ymin + dy, ymax: box.ymax + dy });
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => (this.gone = true));
    effect(() => {
      const [source, seen, scale, colour] = [this.source(), this.seen(), this.pixelsPerMm(), this.colour()];
      const paper = this.paper();
      if (seen.xmax <= seen.xmin || seen.ymax <= seen.ymin) return;
      const [x, y] = [(seen.xmax - seen.xmin) * BEYOND, (seen.ymax - seen.ymin) * BEYOND];
      const box = {
        xmin: Math.max(0, seen.xmin - x),
        ymin: Math.max(0, seen.ymin - y),
        xmax: Math.min(paper.width, seen.xmax + x),
        ymax: Math.min(paper.height, seen.ymax + y),
      };
      untracked(() => this.want({ source, box, scale, colour }));
    });
    const picked = computed(() => this.lifted()?.box, {
      equal: (a, b) => a === b || JSON.stringify(a) === JSON.stringify(b),
    });
    effect(() => {
      const box = picked();
      if (box) untracked(() => this.lift(box));
    });
  }

  private want(part: Part): void {
    const now = this.painted();
    const same = now?.source === part.source && now.colour === part.colour && now.scale === part.scale;
    if (!this.busy && same && covers(now.box, this.seen())) return;
    this.wanted = part;
    if (!this.busy) void this.paint();
  }

  /** Paints the wanted part; of the parts asked for while it paints, only the last is painted next. */
  private async paint(): Promise<void> {
    this.busy = true;
    for (let part = this.wanted; part && !this.gone; part = this.wanted) {
      this.wanted = null;
      const result = await this.engine.paintPart(part.source, part.box, part.scale * devicePixelRatio, part.colour);
      if (this.gone) return;
      if (!result.ok) {
        this.problem.set(result.problem);
        continue;
      }
      const { nativeElement: canvas } = this.canvas();
      [canvas.width, canvas.height] = [result.picture.width, result.picture.height];
      canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(result.picture);
      this.problem.set(null);
      this.painted.set(part);
      this.took.set(Math.round(result.milliseconds));
    }
    this.busy = false;
    this.turns.update((turns) => turns + 1);
  }

  /** Takes a copy of part of the picture, to be seen moving. */
  private lift(box: Box): void {
    const part = this.painted();
    if (!part) return;
    const { nativeElement: from } = this.canvas();
    const { nativeElement: to } = this.ghost();
    const scale = from.width / (part.box.xmax - part.box.xmin);
    [to.width, to.height] = [(box.xmax - box.xmin) * scale, (box.ymax - box.ymin) * scale].map((px) =>
      Math.min(4000, Math.max(1, Math.round(px))),
    ) as [number, number];
    const shrink = to.width / ((box.xmax - box.xmin) * scale);
    to.getContext('2d')!.drawImage(
      from,
      (part.box.xmin - box.xmin) * scale * shrink,
      (box.ymax - part.box.ymax) * scale * shrink,
      from.width * shrink,
      from.height * shrink,
    );
  }

  private styleOf({ xmin, ymin, xmax, ymax }: Box): Record<string, string> {
    const scale = this.pixelsPerMm();
    const px = (mm: number): string => `${mm * scale}px`;
    return { left: px(xmin), top: px(this.paper().height - ymax), width: px(xmax - xmin), height: px(ymax - ymin) };
  }
}

function covers(outer: Box, inner: Box): boolean {
  const near = 1e-6;
  return (
    outer.xmin <= inner.xmin + near &&
    outer.ymin <= inner.ymin + near &&
    outer.xmax >= inner.xmax - near &&
    outer.ymax >= inner.ymax - near
  );
}
