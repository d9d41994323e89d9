import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  model,
  output,
  signal,
} from '@angular/core';
import { formatScale, snapped, type PaperSize, type Snap } from '@folvex/core';
import type { SheetFacts } from '@folvex/contract';
import type { DraggedItem } from './sheet-picture';

export type PlacedBox = Omit<SheetFacts['views'][number], 'toPaper'>;
type Box = PlacedBox['box'];

/** A view catches an edge within so many CSS pixels. */
const REACH_PX = 6;

interface Drag {
  id: string;
  fromX: number;
  fromY: number;
  dx: number;
  dy: number;
  snap: Snap;
}

/** The views of a sheet drawn over its picture, to be chosen and moved; edges of others and of the drawing area catch. */
@Component({
  selector: 'fx-placed-views',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + paper().width + ' ' + paper().height"
      (pointerdown)="chosen.set(null)"
      (pointermove)="moved($event)"
      (pointerup)="letGo($event)"
      (pointercancel)="giveUp()"
    >
      <rect
        class="area"
        [attr.x]="area().xmin"
        [attr.y]="paper().height - area().ymax"
        [attr.width]="area().xmax - area().xmin"
        [attr.height]="area().ymax - area().ymin"
      />
      @for (blank of blanks(); track $index) {
        <rect
          class="blank"
          [attr.x]="blank.box.xmin"
          [attr.y]="paper().height - blank.box.ymax"
          [attr.width]="blank.box.xmax - blank.box.xmin"
          [attr.height]="blank.box.ymax - blank.box.ymin"
        >
          <title>{{ blank.caption }} is to be filled in</title>
        </rect>
      }
      @for (view of shown(); track view.id) {
        <g [class.chosen]="view.id === chosen()" [class.locked]="view.locked" [class.note]="view.note">
          <rect
            class="view"
            tabindex="0"
            role="button"
            [attr.aria-label]="(view.note ? 'Note ' : 'View ') + view.name"
            [attr.aria-pressed]="view.id === chosen()"
            [attr.x]="view.x"
            [attr.y]="view.y"
            [attr.width]="view.width"
            [attr.height]="view.height"
            (pointerdown)="take($event, view.id)"
            (focus)="chosen.set(view.id)"
          />
          @if (!view.note) {
            <text
              [attr.x]="view.x + 3 / pixelsPerMm()"
              [attr.y]="view.y + 14 / pixelsPerMm()"
              [style.font-size.px]="12 / pixelsPerMm()"
            >
              {{ view.name }}
            </text>
          }
        </g>
      }
      @if (drag()?.snap?.x; as x) {
        <line class="caught" [attr.x1]="x" [attr.x2]="x" y1="0" [attr.y2]="paper().height" />
      }
      @if (drag()?.snap?.y; as y) {
        <line
          class="caught"
          x1="0"
          [attr.x2]="paper().width"
          [attr.y1]="paper().height - y"
          [attr.y2]="paper().height - y"
        />
      }
    </svg>
  `,
  styles: `
    svg {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      overflow: visible;
      touch-action: none;
    }
    rect,
    line {
      vector-effect: non-scaling-stroke;
    }
    .area {
      fill: none;
      stroke: #8d8678;
      stroke-dasharray: 2 4;
      pointer-events: none;
    }
    .view {
      fill: transparent;
      stroke: #8d8678;
      stroke-width: 1;
      cursor: move;
      outline: none;
    }
    .note:not(.chosen) .view:not(:hover) {
      stroke: none;
    }
    .locked .view {
      cursor: default;
      stroke-dasharray: 8 3;
    }
    .blank {
      fill: var(--fx-on-paper-signal);
      fill-opacity: 0.12;
      stroke: var(--fx-on-paper-signal);
    }
    .view:hover {
      stroke: var(--fx-on-paper-signal);
    }
    .chosen .view {
      stroke: var(--fx-on-paper-signal);
      stroke-width: 2;
    }
    text {
      stroke: var(--fx-paper);
      stroke-width: 3px;
      vector-effect: non-scaling-stroke;
      paint-order: stroke;
      fill: #625d53;
      font-family: var(--fx-label);
      pointer-events: none;
    }
    .chosen text {
      fill: var(--fx-on-paper-signal);
      font-weight: 600;
    }
    .caught {
      stroke: var(--fx-on-paper-signal);
      stroke-dasharray: 4 3;
      pointer-events: none;
    }
  `,
})
export class PlacedViews {
  readonly paper = input.required<PaperSize>();
  readonly views = input.required<readonly PlacedBox[]>();
  /** Where views go, mm. */
  readonly area = input.required<Box>();
  readonly names = input.required<Readonly<Record<string, string>>>();
  /** Ids of the views that are not to be moved. */
  readonly locked = input<ReadonlySet<string>>(new Set());
  /** Cells of the title block that wait for a value. */
  readonly blanks = input<SheetFacts['blanks']>([]);
  readonly pixelsPerMm = input.required<number>();
  readonly chosen = model<string | null>(null);
  /** A view was put down with its lower left corner there, mm. */
  readonly put = output<{ id: string; x: number; y: number }>();

  /** What is being dragged and how far it has come, mm; null once it is let go. */
  readonly dragged = output<DraggedItem | null>();

  protected readonly drag = signal<Drag | null>(null);
  protected readonly shown = computed(() => {
    const drag = this.drag();
    return this.views().map(({ id, scale, box }) => {
      const locked = this.locked().has(id);
      const [dx, dy] = drag?.id === id ? [drag.dx, drag.dy] : [0, 0];
      return {
        id,
        name: [this.names()[id] ?? id, ...(scale > 0 ? [formatScale(scale)] : []), ...(locked ? ['locked'] : [])].join(
          ', ',
        ),
        note: scale === 0,
        locked,
        x: box.xmin + dx,
        y: this.paper().height - box.ymax - dy,
        width: box.xmax - box.xmin,
        height: box.ymax - box.ymin,
      };
    });
  });
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  protected take(event: PointerEvent, id: string): void {
    event.stopPropagation();
    this.chosen.set(id);
    if (this.locked().has(id)) return;
    const [fromX, fromY] = this.at(event);
    this.drag.set({ id, fromX, fromY, dx: 0, dy: 0, snap: { dx: 0, dy: 0 } });
    (event.target as Element).setPointerCapture(event.pointerId);
  }

  protected moved(event: PointerEvent): void {
    const drag = this.drag();
    const box = this.views().find(({ id }) => id === drag?.id)?.box;
    if (!drag || !box) return;
    const [x, y] = this.at(event);
    const [dx, dy] = [x - drag.fromX, y - drag.fromY];
    const free = { xmin: box.xmin + dx, ymin: box.ymin + dy, xmax: box.xmax + dx, ymax: box.ymax + dy };
    const others = this.views().flatMap((view) => (view.id === drag.id ? [] : [view.box]));
    const reach = event.altKey ? 0 : REACH_PX / this.pixelsPerMm();
    const snap = snapped(free, [...others, this.area()], reach);
    this.drag.set({ ...drag, dx: dx + snap.dx, dy: dy + snap.dy, snap });
    this.dragged.emit({ box, dx: dx + snap.dx, dy: dy + snap.dy });
  }

  protected giveUp(): void {
    this.drag.set(null);
    this.dragged.emit(null);
  }

  protected letGo(event: PointerEvent): void {
    const drag = this.drag();
    const box = this.views().find(({ id }) => id === drag?.id)?.box;
    this.giveUp();
    (event.target as Element).releasePointerCapture?.(event.pointerId);
    if (drag && box && (drag.dx !== 0 || drag.dy !== 0)) {
      this.put.emit({ id: drag.id, x: box.xmin + drag.dx, y: box.ymin + drag.dy });
    }
  }

  /** Where on the paper an event happened, mm from its lower left corner. */
  private at(event: PointerEvent): [number, number] {
    const { left, bottom } = this.host.nativeElement.getBoundingClientRect();
    return [(event.clientX - left) / this.pixelsPerMm(), (bottom - event.clientY) / this.pixelsPerMm()];
  }
}
