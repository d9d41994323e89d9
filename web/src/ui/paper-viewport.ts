import { afterRenderEffect, computed, signal, untracked, type Signal } from '@angular/core';
import type { Box, PaperSize } from '@folvex/core';
import { watchGestures } from './gestures';

/** CSS pixels to a millimetre. */
const [MIN_SCALE, MAX_SCALE] = [0.1, 80];
/** Zooming out ends where the paper is half as large as it fits. */
const MIN_ZOOM = 0.5;

interface Visible {
  left: number;
  top: number;
  width: number;
  height: number;
}

export interface PaperViewportOptions {
  /** Room around the paper where all of it is shown, CSS pixels. */
  around: number;
  /** Zooming in ends where the paper is this many times as large as it fits; absent: where the scale ends. */
  maxZoom?: number;
}

/**
 * The desk that a paper lies on: how large the paper is shown, and which part of it is seen. Zooming keeps what lies
 * under a point where it is.
 */
export class PaperViewport {
  private readonly room = signal({ width: 800, height: 600 });
  /** True once the size of the desk is known. */
  readonly measured = signal(false);
  /** Times as large as the whole paper fits. */
  private readonly zoom = signal(1);
  /** The part of the paper that is seen, CSS pixels from its upper left corner. */
  private readonly visible = signal<Visible>({ left: 0, top: 0, width: 1, height: 1 });
  /** Where in the window a place of the paper (mm) is to be once the paper has been rendered at its new size. */
  private kept: { x: number; y: number; mm: [number, number] } | undefined;
  /** Counts changes of the size, so that each is followed by `settle`. */
  private readonly changes = signal(0);
  private element: HTMLElement | undefined;

  constructor(
    private readonly paper: Signal<PaperSize>,
    private readonly options: PaperViewportOptions,
  ) {
    afterRenderEffect(() => {
      this.changes();
      this.measured();
      this.paper();
      this.width();
      this.height();
      untracked(() => this.settle());
    });
  }

  /** CSS pixels to a millimetre at which the whole paper is seen. */
  private readonly fitting = computed(() => {
    const { width, height } = this.room();
    const { around } = this.options;
    return Math.min((width - 2 * around) / this.paper().width, (height - 2 * around) / this.paper().height);
  });
  readonly pixelsPerMm = computed(() => {
    return Math.min(MAX_SCALE, Math.max(MIN_SCALE, this.fitting() * this.zoom()));
  });
  readonly width = computed(() => Math.round(this.paper().width * this.pixelsPerMm()));
  readonly height = computed(() => Math.round(this.paper().height * this.pixelsPerMm()));
  /** The part of the paper that is seen, mm from its lower left corner. */
  readonly seen = computed((): Box => {
    const { left, top, width, height } = this.visible();
    const scale = this.pixelsPerMm();
    const paper = this.paper();
    const clamp = (value: number, most: number): number => Math.min(most, Math.max(0, value));
    return {
      xmin: clamp(left / scale, paper.width),
      xmax: clamp((left + width) / scale, paper.width),
      ymin: clamp(paper.height - (top + height) / scale, paper.height),
      ymax: clamp(paper.height - top / scale, paper.height),
    };
  });

  /** Watches the element that scrolls, with the paper's element in it. Returns how to stop. */
  attach(element: HTMLElement, begins: (event: MouseEvent | TouchEvent) => boolean): () => void {
    this.element = element;
    const release = watchGestures(element, begins, ({ factor, at, dx, dy }) => {
      if (factor !== 1) this.zoomBy(factor, at, [dx, dy]);
      else this.panBy(dx, dy);
    });
    const look = (): void => this.look();
    const watcher = new ResizeObserver(() => {
      this.room.set({ width: element.clientWidth, height: element.clientHeight });
      this.measured.set(true);
      this.look();
    });
    watcher.observe(element);
    element.addEventListener('scroll', look, { passive: true });
    return () => {
      release();
      watcher.disconnect();
      element.removeEventListener('scroll', look);
    };
  }

  /** Zooms about a point of the window, or about the middle of the desk, and then moves. */
  zoomBy(factor: number, at?: { clientX: number; clientY: number }, [dx, dy]: [number, number] = [0, 0]): void {
    const box = this.element?.getBoundingClientRect();
    const corner = this.corner();
    if (box && corner) {
      const [x, y] = at ? [at.clientX, at.clientY] : [box.left + box.width / 2, box.top + box.height / 2];
      const scale = this.pixelsPerMm();
      this.kept = { x: x + dx, y: y + dy, mm: [(x - corner.x) / scale, (y - corner.y) / scale] };
    }
    // Where `scaleTo` has gone beyond the ends of zooming, zooming goes on from there.
    const [least, most] = [Math.min(MIN_ZOOM, this.zoom()), Math.max(this.options.maxZoom ?? Infinity, this.zoom())];
    this.setZoom(Math.min(most, Math.max(least, this.zoom() * factor)));
  }

  /** Shows the paper at a scale, CSS pixels to a millimetre, however large the desk is. */
  scaleTo(pixelsPerMm: number): void {
    this.kept = undefined;
    this.setZoom(pixelsPerMm / this.fitting());
  }

  private setZoom(zoom: number): void {
    this.zoom.set(Math.min(MAX_SCALE / this.fitting(), Math.max(MIN_SCALE / this.fitting(), zoom)));
    this.changes.update((count) => count + 1);
  }

  whole(): void {
    this.kept = undefined;
    this.zoom.set(1);
  }

  panBy(dx: number, dy: number): void {
    const { kept } = this;
    if (kept) this.kept = { ...kept, x: kept.x + dx, y: kept.y + dy };
    else this.element?.scrollBy(-dx, -dy);
  }

  /**
   * Where the upper left corner of the paper is in the window; where it will be, once several steps of a gesture came
   * before the paper could be rendered.
   */
  private corner(): { x: number; y: number } | undefined {
    const { kept } = this;
    const scale = this.pixelsPerMm();
    return kept ? { x: kept.x - kept.mm[0] * scale, y: kept.y - kept.mm[1] * scale } : this.sheetBox();
  }

  /** After the paper was rendered: scrolls so that what was under the point is there again, and notes what is visible. */
  settle(): void {
    const { kept, element } = this;
    const sheet = this.sheetBox();
    if (kept && element && sheet) {
      const scale = this.pixelsPerMm();
      element.scrollBy(sheet.left + kept.mm[0] * scale - kept.x, sheet.top + kept.mm[1] * scale - kept.y);
    }
    this.kept = undefined;
    this.look();
  }

  private look(): void {
    const { element } = this;
    const sheet = this.sheetBox();
    if (!element || !sheet) return;
    const box = element.getBoundingClientRect();
    const next = { left: box.left - sheet.left, top: box.top - sheet.top, width: box.width, height: box.height };
    const same = (Object.keys(next) as (keyof Visible)[]).every(
      (key) => Math.abs(next[key] - this.visible()[key]) < 0.5,
    );
    if (!same) this.visible.set(next);
  }

  private sheetBox(): DOMRect | undefined {
    return this.element?.querySelector('.sheet')?.getBoundingClientRect();
  }
}
