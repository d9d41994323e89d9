import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { wrap } from 'comlink';
import type { Problem } from '@folvex/core';
import type { DrawingEngine, OpenedDrawing, DrawingViewport, Picked } from '../../../engine/drawing-protocol';
import { startDrawingWorker } from '../../../engine/start-worker';
import { watchGestures, type GestureStep } from '../../../ui/gestures';
import { arrowStep, shortcutOf } from '../../../ui/shortcuts';
import { DRAWING_KEYS } from '../shortcuts';
import { visibleBox } from '../../../engine/visible-box';
import { cssTransform, moved, pixelOf, placeAt, fitToBox, zoomAt } from './drawing-viewport';

const NEAR_PX = 8;
/** A press that moves less is a click. */
const CLICK_PX = 3;

/** Something shown over the drawing at places of its page (mm). */
export interface Overlay {
  kind: 'line' | 'box' | 'spot';
  from: [number, number];
  to: [number, number];
  label: string;
}

/** A drawing to pan and zoom at the pace of the hand: the last picture moves at once, the next is painted behind. */
@Component({
  selector: 'fx-drawing-canvas',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './drawing-canvas.html',
  styleUrl: './drawing-canvas.scss',
  host: {
    tabindex: '0',
    role: 'application',
    '[attr.aria-label]': 'name()',
    '[attr.data-painted]': 'paintedTurn()',
    '(pointerdown)': 'press($event)',
    '(pointermove)': 'move($event)',
    '(pointerup)': 'release($event)',
    '(keydown)': 'key($event)',
  },
})
export class DrawingCanvas {
  readonly url = input.required<string>();
  readonly name = input.required<string>();
  readonly hidden = input<number[]>([]);
  readonly chosen = input<number | null>(null);
  readonly overlays = input<Overlay[]>([]);
  /** True where a press begins something of the caller's instead of moving the drawing. */
  readonly drawing = input(false);
  readonly opened = output<OpenedDrawing>();
  readonly picked = output<Picked | null>();
  /** A place of the page (mm) that was pressed, moved over or let go, the nearest vertex where one is near. */
  readonly placed = output<{ what: 'down' | 'move' | 'up'; at: [number, number] }>();

  protected readonly problem = signal<Problem | null>(null);
  protected readonly paintedTurn = signal(0);
  private readonly outlook = signal<DrawingViewport | null>(null);
  private readonly painted = signal<DrawingViewport | null>(null);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly worker = startDrawingWorker();
  private readonly engine = wrap<DrawingEngine>(this.worker);
  private paper: [number, number, number, number] = [0, 0, 1, 1];
  private busy = false;
  private again = false;
  /** Where the pointer was pressed, and whether it has moved too far for a click. */
  private pressed: { x: number; y: number; far: boolean } | undefined;

  protected readonly transform = computed(() => {
    const [painted, wanted] = [this.painted(), this.outlook()];
    return painted && wanted ? cssTransform(painted, wanted, devicePixelRatio) : 'none';
  });
  protected readonly marks = computed(() => {
    const outlook = this.outlook();
    if (!outlook) return [];
    return this.overlays().map(({ kind, from, to, label }) => {
      const [x1, y1] = pixelOf(outlook, ...from).map((px) => px / devicePixelRatio) as [number, number];
      const [x2, y2] = pixelOf(outlook, ...to).map((px) => px / devicePixelRatio) as [number, number];
      const box = { x: Math.min(x1, x2), y: Math.min(y1, y2), width: Math.abs(x2 - x1), height: Math.abs(y2 - y1) };
      return { kind, x1, y1, x2, y2, box, label };
    });
  });

  constructor() {
    const sizes = new ResizeObserver(() => this.resize());
    sizes.observe(this.host);
    const release = watchGestures(
      this.host,
      (event) => this.movesDrawing(event),
      (step) => this.follow(step),
    );
    inject(DestroyRef).onDestroy(() => {
      release();
      sizes.disconnect();
      this.worker.terminate();
    });
    effect(() => void this.open(this.url()));
    effect(() => {
      this.hidden();
      this.chosen();
      if (this.outlook()) untracked(() => void this.paint());
    });
  }

  /** What is seen, mm of the page; null while nothing is. */
  seen(): [number, number, number, number] | null {
    const outlook = this.outlook();
    return outlook && visibleBox(outlook);
  }

  /** Shows all of the drawing, or a box of its page (mm). */
  show(box?: readonly [number, number, number, number]): void {
    const [width, height] = this.size();
    this.outlook.set(fitToBox(box ?? this.paper, width, height, box ? 1.6 : 1.02));
  }

  zoom(factor: number): void {
    const [width, height] = this.size();
    this.outlook.update((outlook) => outlook && zoomAt(outlook, factor, width / 2, height / 2));
  }

  /** An entity by its number; null where nothing is drawn of it. */
  find(tag: number): Promise<Picked | null> {
    return this.engine.find(tag);
  }

  private async open(url: string): Promise<void> {
    const opened = await this.engine.open(url);
    this.problem.set(opened.ok ? null : opened.problem);
    this.opened.emit(opened);
    if (!opened.ok) return;
    this.paper = [0, 0, opened.widthMm, opened.heightMm];
    this.show();
  }

  /** Paints the current view; any number of requests while it paints lead to one more painting. */
  private async paint(): Promise<void> {
    const outlook = this.outlook();
    if (!outlook) return;
    if (this.busy) return void (this.again = true);
    this.busy = true;
    const bitmap = await this.engine.paint(outlook, this.hidden(), this.chosen());
    const { nativeElement: canvas } = this.canvas();
    canvas.width = bitmap.width;
    canvas.height = bitmap.height;
    canvas.style.width = `${bitmap.width / devicePixelRatio}px`;
    canvas.style.height = `${bitmap.height / devicePixelRatio}px`;
    canvas.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap);
    this.painted.set(outlook);
    this.busy = false;
    if (this.again) {
      this.again = false;
      void this.paint();
    } else this.paintedTurn.update((turn) => turn + 1);
  }

  private size(): [number, number] {
    const { clientWidth, clientHeight } = this.host;
    return [Math.round(clientWidth * devicePixelRatio), Math.round(clientHeight * devicePixelRatio)];
  }

  private resize(): void {
    const [widthPx, heightPx] = this.size();
    this.outlook.update((outlook) => outlook && { ...outlook, widthPx, heightPx });
  }

  /** Whether an event moves or zooms the drawing, rather than being the caller's. */
  private movesDrawing(event: MouseEvent | TouchEvent): boolean {
    if ('touches' in event) return event.touches.length > 1 || !this.drawing();
    return event.type === 'wheel' || event.button === 1 || (event.button === 0 && !this.drawing());
  }

  private follow({ factor, at, dx, dy }: GestureStep): void {
    const [px, py] = this.pixel(at);
    const [right, down] = [dx * devicePixelRatio, dy * devicePixelRatio];
    this.outlook.update((outlook) => outlook && moved(zoomAt(outlook, factor, px, py), right, down));
  }

  protected press(event: PointerEvent): void {
    this.pressed = { x: event.clientX, y: event.clientY, far: !event.isPrimary };
    if (!this.drawing() || event.button !== 0) return;
    this.host.setPointerCapture(event.pointerId);
    void this.report('down', event);
  }

  protected move(event: PointerEvent): void {
    if (this.drawing() && !(event.buttons & 4)) return void this.report('move', event);
    const { pressed } = this;
    if (pressed && Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) >= CLICK_PX) pressed.far = true;
  }

  protected async release(event: PointerEvent): Promise<void> {
    const { pressed } = this;
    this.pressed = undefined;
    if (this.drawing()) return this.report('up', event);
    const outlook = this.outlook();
    if (!pressed || pressed.far || !outlook) return;
    const [x, y] = placeAt(outlook, ...this.pixel(event));
    this.picked.emit(await this.engine.pick(x, y, this.reach(outlook), this.hidden()));
  }

  protected key(event: KeyboardEvent): void {
    const shortcut = shortcutOf(event, DRAWING_KEYS);
    if (!shortcut || shortcut === 'stop') return;
    event.preventDefault();
    switch (shortcut) {
      case 'pan':
        return this.panBy(arrowStep(event)!);
      case 'zoomIn':
        return this.zoom(1.4);
      case 'zoomOut':
        return this.zoom(1 / 1.4);
      case 'showAll':
        return this.show();
    }
  }

  private panBy([dx, dy]: readonly [number, number]): void {
    const step = 60 * devicePixelRatio;
    this.outlook.update((outlook) => outlook && moved(outlook, -dx * step, dy * step));
  }

  private async report(what: 'down' | 'move' | 'up', event: PointerEvent): Promise<void> {
    const outlook = this.outlook();
    if (!outlook) return;
    const at = placeAt(outlook, ...this.pixel(event));
    const near = what === 'move' ? null : await this.engine.snap(...at, this.reach(outlook), this.hidden());
    this.placed.emit({ what, at: near ?? at });
  }

  private reach(outlook: DrawingViewport): number {
    return (NEAR_PX * devicePixelRatio) / outlook.scale;
  }

  private pixel(event: { clientX: number; clientY: number }): [number, number] {
    const { left, top } = this.host.getBoundingClientRect();
    return [(event.clientX - left) * devicePixelRatio, (event.clientY - top) * devicePixelRatio];
  }
}
