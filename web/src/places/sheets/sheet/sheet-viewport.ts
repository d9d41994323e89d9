import { computed, signal, type Signal } from '@angular/core';
import type { Box, PaperSize } from '@folvex/core';

/** Room around the sheet for its rulers, CSS pixels. */
const AROUND = 44;
/** CSS pixels to a millimetre. */
const [MIN_ZOOM, MAX_ZOOM] = [0.1, 80];

interface Visible {
  left: number;
  top: number;
  width: number;
  height: number;
}

/**
 * The desk that a sheet lies on: how large the sheet is shown, and which part of it is seen. Zooming keeps what lies
 * under a point where it is.
 */
export class SheetViewport {
  private readonly room = signal({ width: 800, height: 600 });
  /** Times as large as the whole sheet fits. */
  private readonly zoom = signal(1);
  /** The part of the sheet that is seen, CSS pixels from its upper left corner. */
  private readonly visible = signal<Visible>({ left: 0, top: 0, width: 1, height: 1 });
  /** Where on the desk a place of the paper (mm) is to stay. */
  private kept: { x: number; y: number; mm: [number, number] } | undefined;
  private element: HTMLElement | undefined;

  constructor(private readonly paper: Signal<PaperSize>) {}

  readonly pixelsPerMm = computed(() => {
    const { width, height } = this.room();
    const fitting = Math.min((width - 2 * AROUND) / this.paper().width, (height - 2 * AROUND) / this.paper().height);
    return Math.min(MAX_ZOOM, Math.max(MIN_ZOOM, fitting * this.zoom()));
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

  /** Watches the element that scrolls, with the sheet's element in it. Returns how to stop. */
  attach(element: HTMLElement): () => void {
    this.element = element;
    const look = (): void => this.look();
    const watcher = new ResizeObserver(() => {
      this.room.set({ width: element.clientWidth, height: element.clientHeight });
      this.look();
    });
    watcher.observe(element);
    element.addEventListener('scroll', look, { passive: true });
    return () => {
      watcher.disconnect();
      element.removeEventListener('scroll', look);
    };
  }

  /** Zooms about a point of the window, or about the middle of the desk. */
  zoomBy(factor: number, at?: { clientX: number; clientY: number }): void {
    const box = this.element?.getBoundingClientRect();
    const sheet = this.sheetBox();
    if (box && sheet) {
      const [x, y] = at ? [at.clientX, at.clientY] : [box.left + box.width / 2, box.top + box.height / 2];
      const scale = this.pixelsPerMm();
      this.kept = { x, y, mm: [(x - sheet.left) / scale, (y - sheet.top) / scale] };
    }
    const fitting = this.pixelsPerMm() / this.zoom();
    this.zoom.update((zoom) => Math.min(MAX_ZOOM / fitting, Math.max(0.5, zoom * factor)));
  }

  whole(): void {
    this.kept = undefined;
    this.zoom.set(1);
  }

  panBy(dx: number, dy: number): void {
    this.element?.scrollBy(-dx, -dy);
  }

  /** After the sheet has its new size: scrolls so that what was under the point is there again, and looks. */
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
