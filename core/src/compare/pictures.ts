/** Two pictures of one page, before and after, of the same size: RGBA, row by row from the top. */
export interface PicturePair {
  before: Uint8ClampedArray;
  after: Uint8ClampedArray;
  width: number;
  height: number;
}

/** Where a page differs, as shares of its width and height from its upper left corner. */
export interface ChangedArea {
  left: number;
  top: number;
  width: number;
  height: number;
  /** Pixels that came and went in it. */
  added: number;
  removed: number;
}

export interface PictureDifference {
  /** Both in one picture, RGBA: what came, what went, and pale what stayed. */
  picture: Uint8ClampedArray<ArrayBuffer>;
  /** The largest first. */
  areas: ChangedArea[];
}

/** Lightness 0…255 by which a pixel must differ: less comes of the smoothing of edges. */
const MIN_STEP = 48;
/** Changes closer than this many pixels are one area. */
const CELL = 12;
const MAX_AREAS = 200;

/** As in comparing drawings: added is solid, removed is striped, so that colour alone carries no meaning. */
const ADDED = [0x0f, 0x6b, 0x78] as const;
const REMOVED = [0xc2, 0x41, 0x0c] as const;
/** Pixels of a stripe and of the gap after it. */
const [STRIPE, PERIOD] = [5, 8];
/** Share of the ink that what stayed keeps. */
const PALE = 0.3;

/** Compares two pictures of a page pixel by pixel. */
export function comparePictures({ before, after, width, height }: PicturePair): PictureDifference {
  const picture = new Uint8ClampedArray(width * height * 4);
  const columns = Math.ceil(width / CELL);
  const cells = new CellCounts(columns, Math.ceil(height / CELL));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 4;
      const [one, other] = [lightness(before, at), lightness(after, at)];
      const step = Math.abs(one - other) >= MIN_STEP || coloured(before, after, at);
      const cell = Math.floor(y / CELL) * columns + Math.floor(x / CELL);
      if (!step) pale(picture, at, after);
      else if (other <= one) {
        cells.added[cell]!++;
        set(picture, at, ADDED);
      } else {
        cells.removed[cell]!++;
        if ((x + y) % PERIOD < STRIPE) set(picture, at, REMOVED);
        else set(picture, at, [255, 255, 255]);
      }
    }
  }
  return { picture, areas: cells.areas(width, height) };
}

/** Perceived lightness (ITU-R BT.601), white where nothing is painted. */
function lightness(pixels: Uint8ClampedArray, at: number): number {
  const opaque = pixels[at + 3]! / 255;
  const ink = 0.299 * pixels[at]! + 0.587 * pixels[at + 1]! + 0.114 * pixels[at + 2]!;
  return ink * opaque + 255 * (1 - opaque);
}

/** Whether a pixel has another colour, however light. */
function coloured(before: Uint8ClampedArray, after: Uint8ClampedArray, at: number): boolean {
  for (let part = 0; part < 3; part++) {
    if (Math.abs(before[at + part]! - after[at + part]!) >= 2 * MIN_STEP) return true;
  }
  return false;
}

function pale(picture: Uint8ClampedArray, at: number, after: Uint8ClampedArray): void {
  const grey = 255 - (255 - lightness(after, at)) * PALE;
  set(picture, at, [grey, grey, grey]);
}

function set(picture: Uint8ClampedArray, at: number, colour: readonly [number, number, number]): void {
  picture[at] = colour[0];
  picture[at + 1] = colour[1];
  picture[at + 2] = colour[2];
  picture[at + 3] = 255;
}

/** Changed pixels by cell of a coarse grid; cells that touch make one area. */
class CellCounts {
  readonly added: Uint32Array;
  readonly removed: Uint32Array;

  constructor(
    private readonly columns: number,
    private readonly rows: number,
  ) {
    this.added = new Uint32Array(columns * rows);
    this.removed = new Uint32Array(columns * rows);
  }

  areas(width: number, height: number): ChangedArea[] {
    const seen = new Uint8Array(this.columns * this.rows);
    const found: ChangedArea[] = [];
    for (let cell = 0; cell < seen.length; cell++) {
      if (!seen[cell] && this.changed(cell)) found.push(this.areaFrom(cell, seen, width, height));
    }
    return found.sort((a, b) => b.added + b.removed - a.added - a.removed).slice(0, MAX_AREAS);
  }

  private changed(cell: number): boolean {
    return this.added[cell]! + this.removed[cell]! > 0;
  }

  private areaFrom(first: number, seen: Uint8Array, width: number, height: number): ChangedArea {
    const { columns, rows } = this;
    let [left, top, right, bottom] = [columns, rows, 0, 0];
    let [added, removed] = [0, 0];
    const waiting = [first];
    seen[first] = 1;
    for (let cell = waiting.pop(); cell !== undefined; cell = waiting.pop()) {
      const [x, y] = [cell % columns, Math.floor(cell / columns)];
      [left, top] = [Math.min(left, x), Math.min(top, y)];
      [right, bottom] = [Math.max(right, x + 1), Math.max(bottom, y + 1)];
      added += this.added[cell]!;
      removed += this.removed[cell]!;
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          if (x + dx < 0 || x + dx >= columns || y + dy < 0 || y + dy >= rows) continue;
          const next = cell + dy * columns + dx;
          if (seen[next] || !this.changed(next)) continue;
          seen[next] = 1;
          waiting.push(next);
        }
      }
    }
    const [w, h] = [width / CELL, height / CELL];
    return {
      left: left / w,
      top: top / h,
      width: Math.min(right / w, 1) - left / w,
      height: Math.min(bottom / h, 1) - top / h,
      added,
      removed,
    };
  }
}
