import { isSeeThrough, type Gradient } from '../drawing/gradient';
import { IDENTITY, type Affine } from '../geometry/affine';
import type { PathSink } from '../geometry/curves';
import { isInGroup, visitGroups } from '../page/groups';
import { markOrder } from '../page/mark-boxes';
import { traceMark } from '../page/mark-path';
import { UNITS_PER_MM, type Page, type PageText, type PlacedPicture } from '../page/page';
import { visitMark, type MarkVisitor } from '../page/visit-marks';
import type { FontId } from '../text/fonts';
import type { FontSet } from '../text/layout';
import type { Canvas2D } from './canvas-2d';
import {
  asOpacity,
  clipTo,
  drawWhole,
  paintBar,
  paintOutlines,
  paintPicture,
  paintText,
  SET_AT,
  shadeOf,
  usePen,
} from './canvas-shapes';

/** The off-screen canvas that a group is painted on, and the image by which it is drawn onto another one. */
export interface GroupCanvas {
  context: Canvas2D;
  image: unknown;
}

/** How a page is to be painted. */
export interface Painting {
  /** Makes a transparent canvas; groups are painted on one before they are composited. */
  groupCanvas(width: number, height: number): GroupCanvas;
  /** How texts are lettered: in typefaces that the canvas has loaded, by their names, or as outlines of these. */
  letters: { familyOf(font: FontId): string } | { outlines: FontSet };
  /** Lines never get thinner than this, so that they do not vanish in a miniature. Pixels. */
  thinnestPx?: number;
  /** Texts lower than this are painted as pale bars: nobody can read them, and they take most of the time. Pixels. */
  readablePx?: number;
  /** What the canvas can draw of each of the page's pictures; a crossed box stands for one that is not there. */
  pictures?: readonly unknown[];
  /** The marks to paint, in their order, with the number of the text or picture of each; all where absent. */
  marks?: { list: ArrayLike<number>; order: ArrayLike<number> };
}

/** Marks of one pen are painted as one path up to this many: endless paths slow canvases down. */
const MAX_SUBPATHS = 1000;

/** Paints a page with its lower left corner at (0, heightPx), `pixelsPerMm` large, on white paper. */
export function paintPage(canvas: Canvas2D, page: Page, pixelsPerMm: number, painting: Painting): void {
  const scale = pixelsPerMm / UNITS_PER_MM;
  canvas.setTransform(1, 0, 0, 1, 0, 0);
  canvas.fillStyle = '#ffffff';
  // Fill whole pixels: one that the paper only partly covers would come out grey.
  canvas.fillRect(0, 0, Math.ceil(page.widthMm * pixelsPerMm), Math.ceil(page.heightMm * pixelsPerMm));
  paintMarks(canvas, page, { a: scale, b: 0, c: 0, d: -scale, e: 0, f: page.heightMm * pixelsPerMm }, painting);
}

/** Paints the marks of a page; `map` takes page units to pixels. */
export function paintMarks(canvas: Canvas2D, page: Page, map: Affine, painting: Painting): void {
  new MarkPainter(canvas, page, map, painting).paint();
}

class MarkPainter implements MarkVisitor, PathSink {
  /** Pixels in one page unit. */
  private readonly scale: number;
  private readonly thinnest: number;
  private pen = -1;
  private font = '';
  private clip = 0;
  private subpaths = 0;
  private readonly order: ArrayLike<number>;

  constructor(
    private readonly canvas: Canvas2D,
    private readonly page: Page,
    private readonly map: Affine,
    private readonly painting: Painting,
  ) {
    this.order = painting.marks?.order ?? markOrder(page);
    this.scale = Math.hypot(map.a, map.b);
    this.thinnest = (painting.thinnestPx ?? 0.35) / this.scale;
  }

  paint(): void {
    const { list = Uint32Array.from({ length: this.page.markCount }, (_, i) => i) } = this.painting.marks ?? {};
    this.paintList(list, 0);
  }

  /** Paints marks that are all in the group `around` (0: the page). */
  private paintList(list: ArrayLike<number>, around: number): void {
    const { canvas, page } = this;
    this.toPage();
    canvas.fontKerning = 'none';
    visitGroups(page, list, [0, list.length], around, {
      mark: (mark) => {
        if (page.clip[mark] !== this.clip) this.changeClip(page.clip[mark]!);
        visitMark(page, mark, this.order, this);
      },
      group: (group, from, to) => this.paintGroup(group, Array.prototype.slice.call(list, from, to) as number[]),
    });
    this.endPath();
    if (this.clip) canvas.restore();
  }

  /** Paints a group on a canvas of its own, applies its mask, and composites the result onto this canvas. */
  private paintGroup(group: number, marks: readonly number[]): void {
    const { canvas, page } = this;
    this.changeClip(0);
    const { opacity, mask } = page.groups[group - 1]!;
    const inMask = (mark: number): boolean => mask !== undefined && isInGroup(page, mark, mask);
    const shown = this.apart(
      marks.filter((mark) => !inMask(mark)),
      group,
    );
    if (mask !== undefined) {
      const masking = this.apart(marks.filter(inMask), mask);
      asOpacity(masking.context);
      shown.context.globalCompositeOperation = 'destination-in';
      drawWhole(shown.context, masking.image);
    }
    canvas.globalAlpha = opacity / 100;
    drawWhole(canvas, shown.image);
    this.toPage();
  }

  private apart(marks: readonly number[], group: number): GroupCanvas {
    const { width, height } = this.canvas.canvas;
    const own = this.painting.groupCanvas(width, height);
    const painting = { ...this.painting, marks: { list: marks, order: this.order } };
    new MarkPainter(own.context, this.page, this.map, painting).paintList(marks, group);
    return own;
  }

  stroke(mark: number): void {
    const { canvas, page } = this;
    this.usePen(page.pen[mark]!);
    if (this.subpaths === 0) canvas.beginPath();
    traceMark(page, mark, this);
    // What is see-through shows where lines cross: each is painted by itself.
    const { opacity, gradient } = page.pens[this.pen]!;
    const seeThrough = opacity < 100 || (gradient && isSeeThrough(gradient));
    if (++this.subpaths >= MAX_SUBPATHS || seeThrough) this.endPath();
  }

  fill(mark: number, nonzero: boolean): void {
    const { canvas, page } = this;
    this.usePen(page.pen[mark]!);
    this.endPath();
    canvas.beginPath();
    traceMark(page, mark, this);
    const { gradient } = page.pens[this.pen]!;
    if (gradient) this.shade(gradient);
    canvas.fill(nonzero ? 'nonzero' : 'evenodd');
    if (gradient?.from) this.toPage();
  }

  /** Fills what is traced with a gradient. Leaves the canvas in the plane of a radial one. */
  private shade(gradient: Gradient): void {
    const { canvas } = this;
    if (!gradient.from) canvas.fillStyle = shadeOf(canvas, gradient);
    else {
      const { a, b, c, d, e, f } = gradient.map;
      canvas.transform(a, b, c, d, e, f);
      canvas.fillStyle = shadeOf(canvas, { ...gradient, map: IDENTITY });
    }
  }

  private toPage(): void {
    const { a, b, c, d, e, f } = this.map;
    this.canvas.setTransform(a, b, c, d, e, f);
  }

  text(mark: number, text: PageText): void {
    const { canvas, page, map, scale } = this;
    const { letters, readablePx = 0 } = this.painting;
    this.usePen(page.pen[mark]!);
    this.endPath();
    if (text.unseen) return;
    if (text.size * Math.hypot(text.c, text.d) * scale < readablePx) {
      return paintBar(canvas, text, page.pens[this.pen]!);
    }
    if ('outlines' in letters) return paintOutlines(canvas, text, letters.outlines);
    const wanted = `${SET_AT}px "${letters.familyOf(text.font)}"`;
    if (wanted !== this.font) canvas.font = this.font = wanted;
    paintText(canvas, text, map);
  }

  picture(_mark: number, placed: PlacedPicture): void {
    this.endPath();
    paintPicture(this.canvas, placed, this.painting.pictures?.[placed.picture], 1 / this.scale);
  }

  moveTo(x: number, y: number): void {
    this.canvas.moveTo(x, y);
  }

  lineTo(x: number, y: number): void {
    this.canvas.lineTo(x, y);
  }

  curveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void {
    this.canvas.bezierCurveTo(x1, y1, x2, y2, x, y);
  }

  close(): void {
    this.canvas.closePath();
  }

  private changeClip(clip: number): void {
    this.endPath();
    if (this.clip) this.canvas.restore();
    this.clip = clip;
    this.pen = -1;
    this.font = '';
    if (clip) clipTo(this.canvas, this.page.clips[clip - 1]!);
  }

  private usePen(pen: number): void {
    if (pen === this.pen) return;
    this.endPath();
    this.pen = pen;
    usePen(this.canvas, this.page.pens[pen]!, this.thinnest);
  }

  private endPath(): void {
    if (this.subpaths > 0) this.canvas.stroke();
    this.subpaths = 0;
  }
}
