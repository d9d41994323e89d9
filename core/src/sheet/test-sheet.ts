import { apply, multiply, rotation, translation, type Affine } from '../geometry/affine';
import { boxPath, linePath } from '../geometry/outline';
import { PageBuilder } from '../page/builder';
import type { Page } from '../page/page';
import type { PaperSize } from '../paper/sizes';
import type { FontSet } from '../text/layout';
import { placeLettering } from './lettering';

/** Space left to the edges, more than plotters leave unprinted, mm. */
const EDGE = 20;
/** Widths of lines (ISO 128-20, with the ones of DXF below and between), mm. */
const WEIGHTS = [0.05, 0.09, 0.13, 0.18, 0.25, 0.35, 0.5, 0.7, 1, 1.4];
/** Heights of capitals (ISO 3098-1, with smaller ones), mm. */
const HEIGHTS = [1, 1.3, 1.8, 2.5, 3.5, 5];
const GREYS = 10;
/** Width that the columns of weights, greys and heights take, with the gap before them, mm. */
const COLUMNS = 144;
const INK = 0;
/** Weights of rulers and frames, mm. */
const [FINE, FRAME] = [0.18, 0.35];

/**
 * A page that tells whether a plotter prints to scale, square, and as fine and as even as it should: rulers along two edges,
 * a square with its diagonals, line weights, greys and small texts. `name` is what the paper is called.
 */
export function testSheet({ width, height }: PaperSize, name: string, fonts: FontSet): Page {
  return new TestSheet(width, height, name, fonts).page();
}

class TestSheet {
  private readonly builder: PageBuilder;
  private readonly layer: number;

  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly name: string,
    private readonly fonts: FontSet,
  ) {
    this.builder = new PageBuilder(width, height);
    this.layer = this.builder.layer('', 'Test sheet');
  }

  page(): Page {
    const { width, height } = this;
    const [along, up] = [width, height].map((side) => Math.floor((side - 2 * EDGE) / 10) * 10) as [number, number];
    this.ruler(along, translation(EDGE, EDGE));
    // On the other side, so that they do not run into each other.
    this.ruler(up, multiply(translation(EDGE, EDGE), rotation(Math.PI / 2)));
    const [left, top] = [EDGE + 18, height - EDGE];
    const title = `Test sheet ${this.name}, ${Math.round(width)} × ${Math.round(height)} mm`;
    this.text(title, left, top - 6, 5);
    this.text(
      'Print at 100 %, without fitting to the page, then measure: every number is in mm on this paper.',
      left,
      top - 12,
      2.5,
    );
    // As large as there is room for, above the ruler and below the title, with the columns next to it.
    const room = Math.min(height - 2 * EDGE - 46, width - 2 * EDGE - 18 - COLUMNS);
    const side = Math.min(100, Math.floor(room / 10) * 10);
    const bottom = EDGE + 22;
    const column = left + side + 12;
    if (side >= 20) {
      this.square(left, bottom, side);
      this.ladder(column, bottom + side);
      this.greys(column + 58, bottom + side);
      this.heights(column + 84, bottom + side);
    }
    return this.builder.build();
  }

  /** A line with marks at every mm on its left, and numbers at every 10. */
  private ruler(length: number, map: Affine): void {
    this.line(map, 0, 0, length, 0, FRAME);
    for (let mm = 0; mm <= length; mm++) {
      const mark = mm % 10 === 0 ? 6 : mm % 5 === 0 ? 4 : 2.5;
      this.line(map, mm, 0, mm, mark, FINE);
      if (mm % 10 === 0) this.text(String(mm), mm, 7.5, 2, map, 'centre');
    }
    this.text(`This line is ${length} mm long`, length / 2, -5, 2.5, map, 'centre');
  }

  private square(x: number, y: number, side: number): void {
    const map = translation(x, y);
    const corners = [0, 0, side, 0, side, side, 0, side, 0, 0];
    for (let i = 0; i + 3 < corners.length; i += 2) {
      this.line(map, corners[i]!, corners[i + 1]!, corners[i + 2]!, corners[i + 3]!, FRAME);
    }
    this.line(map, 0, 0, side, side, FINE);
    this.line(map, side, 0, 0, side, FINE);
    const diagonal = (side * Math.SQRT2).toFixed(2);
    this.text(`${side} × ${side} mm; both diagonals ${diagonal} mm`, 0, side + 2, 2.5, map);
  }

  private ladder(x: number, top: number): void {
    this.text('Line weights', x, top + 2, 2.5);
    WEIGHTS.forEach((weight, i) => {
      const y = top - 6 - i * 7;
      this.text(weight.toFixed(2), x, y - 1, 2);
      this.line(translation(x + 12, y), 0, 0, 38, 0, weight);
    });
  }

  private greys(x: number, top: number): void {
    this.text('Greys, %', x, top + 2, 2.5);
    for (let i = 1; i <= GREYS; i++) {
      const percent = (100 / GREYS) * i;
      const part = Math.round(255 * (1 - percent / 100));
      const y = top - 2 - i * 7;
      this.area(x, y, 14, 6, (part << 16) | (part << 8) | part);
      this.text(String(percent), x + 16, y + 2, 2);
    }
  }

  private heights(x: number, top: number): void {
    this.text('Heights of capitals', x, top + 2, 2.5);
    let y = top - 4;
    for (const height of HEIGHTS) {
      y -= height + 4;
      this.text(height.toFixed(1), x, y, 2);
      this.text('Ghg 3.14 Ø', x + 8, y, height);
    }
  }

  private line(map: Affine, x0: number, y0: number, x1: number, y1: number, weight: number): void {
    // Cut square, so that a line is as long as it says.
    this.builder.stroke(
      linePath(apply(map, x0, y0), apply(map, x1, y1)),
      this.layer,
      this.builder.pen(weight, INK, [], false),
    );
  }

  private area(x: number, y: number, wide: number, high: number, colour: number): void {
    this.builder.fill(
      boxPath({ xmin: x, ymin: y, xmax: x + wide, ymax: y + high }),
      this.layer,
      this.builder.pen(0, colour),
    );
  }

  private text(
    text: string,
    x: number,
    y: number,
    height: number,
    map: Affine = translation(0, 0),
    horizontal: 'left' | 'centre' = 'left',
  ): void {
    const lettering = {
      ...{ lines: [text], font: 'sans' as const, height, widthFactor: 1, lineSpacing: 1 },
      ...{ horizontal, vertical: 'baseline' as const },
    };
    for (const placed of placeLettering(this.fonts, lettering, multiply(map, translation(x, y)))) {
      this.builder.text(placed.text, placed.box, this.layer, this.builder.pen(0, INK));
    }
  }
}
