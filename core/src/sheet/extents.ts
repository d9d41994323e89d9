import { apply, type Affine } from '../geometry/affine';
import { boxOfLoops, include, intersection, isEmpty, emptyBox, union, type Box } from '../geometry/box';
import { Path } from '../geometry/path';
import type { Block, Drawing, Entity, ShapeEntity } from '../drawing/model';
import type { FontSet } from '../text/layout';
import { placeEntityText } from './lettering';
import { drawPath, mappedLoops } from './shapes';
import { addStop, walk, type Visitor, type WalkStop, type WalkStops } from './walk';

/** What is visible in a space, and what was left out of account as astray. */
export interface Extents {
  /** Undefined where nothing is visible. */
  box: Box | undefined;
  /** Entities that lie so far from all others that they are taken for mistakes. */
  strays: { handle: string; x: number; y: number }[];
  stops: WalkStops;
}

/** With fewer entities than this nothing is taken for a stray. */
const FEWEST = 12;
/** Share of the entities that may be astray on either side. */
const MAX_ASTRAY = 0.001;
/** A stray lies farther from the others than this many times their span. */
const FAR = 20;
const STRIDE = 4;

/** Box around all that is visible in a space, in drawing units; strays do not count. */
export function visibleExtents(
  drawing: Drawing,
  entities: readonly Entity[],
  fonts: FontSet,
  hidden: ReadonlySet<string> = new Set(),
): Box | undefined {
  return extentsOf(drawing, entities, fonts, hidden).box;
}

/** What is visible in a space, robust against single entities a thousand kilometres away. */
export function extentsOf(
  drawing: Drawing,
  entities: readonly Entity[],
  fonts: FontSet,
  hidden: ReadonlySet<string> = new Set(),
): Extents {
  const measured = new Measurer(drawing, fonts);
  walk(drawing, entities, measured, hidden);
  return measured.extents();
}

class Measurer implements Visitor {
  private boxes = new Float64Array(STRIDE * 1024);
  private count = 0;
  /** How many masks are open: they are not seen. */
  private masking = 0;
  private readonly handles: string[] = [];
  private readonly clips: Box[] = [];
  private readonly stops = new Map<WalkStop, Set<string>>();
  private readonly path = new Path();

  constructor(
    private readonly drawing: Drawing,
    private readonly fonts: FontSet,
  ) {}

  entity(entity: ShapeEntity, _looks: unknown, map: Affine): void {
    if (this.masking > 0) return;
    const path = this.path.clear();
    if (entity.kind === 'text') {
      for (const { box } of placeEntityText(this.fonts, this.drawing, entity, map, new Set()))
        this.add(box, entity.handle);
      return;
    }
    if (entity.kind === 'line' && entity.endless) return;
    if (entity.kind === 'point') include(path.box, ...apply(map, entity.x, entity.y));
    else drawPath(path, entity, map);
    this.add(path.box, entity.handle);
  }

  stopped(why: WalkStop, block: string): void {
    addStop(this.stops, why, block);
  }

  clipBegins(loops: readonly Float64Array[], map: Affine): void {
    const box = boxOfLoops(mappedLoops(loops, map));
    this.clips.push(this.clips.length > 0 ? intersection(this.clips.at(-1)!, box) : box);
  }

  clipEnds(): void {
    this.clips.pop();
  }

  groupBegins(group: NonNullable<Block['group']>): void {
    if (group === 'mask') this.masking++;
  }

  groupEnds(group: NonNullable<Block['group']>): void {
    if (group === 'mask') this.masking--;
  }

  extents(): Extents {
    const box = emptyBox();
    const strays: Extents['strays'] = [];
    const kept = this.near();
    for (let i = 0; i < this.count; i++) {
      const own = this.boxAt(i);
      if (contains(kept, own)) union(box, own);
      else strays.push({ handle: this.handles[i]!, x: (own.xmin + own.xmax) / 2, y: (own.ymin + own.ymax) / 2 });
    }
    return { box: isEmpty(box) ? undefined : box, strays, stops: this.stops };
  }

  private add(box: Box, handle: string): void {
    const shown = this.clips.length > 0 ? intersection(this.clips.at(-1)!, box) : box;
    if (isEmpty(shown)) return;
    if (STRIDE * (this.count + 1) > this.boxes.length) {
      const bigger = new Float64Array(this.boxes.length * 2);
      bigger.set(this.boxes);
      this.boxes = bigger;
    }
    this.boxes.set([shown.xmin, shown.ymin, shown.xmax, shown.ymax], STRIDE * this.count++);
    this.handles.push(handle);
  }

  private boxAt(i: number): Box {
    const [xmin, ymin, xmax, ymax] = this.boxes.subarray(STRIDE * i, STRIDE * i + STRIDE) as unknown as [
      number,
      number,
      number,
      number,
    ];
    return { xmin, ymin, xmax, ymax };
  }

  /** Beyond this box entities are astray. */
  private near(): Box {
    const all = { xmin: -Infinity, ymin: -Infinity, xmax: Infinity, ymax: Infinity };
    const { count } = this;
    if (count < FEWEST) return all;
    const left = Math.max(1, Math.floor(count * MAX_ASTRAY));
    const range = (low: number): [number, number] => {
      const middles = new Float64Array(count);
      for (let i = 0; i < count; i++)
        middles[i] = (this.boxes[STRIDE * i + low]! + this.boxes[STRIDE * i + low + 2]!) / 2;
      middles.sort();
      return [middles[left]!, middles[count - 1 - left]!];
    };
    const [[x0, x1], [y0, y1]] = [range(0), range(1)];
    // The larger side counts for both: one row of columns does not stray from another.
    const reach = FAR * Math.max(x1 - x0, y1 - y0);
    if (!(reach > 0)) return all;
    return { xmin: x0 - reach, ymin: y0 - reach, xmax: x1 + reach, ymax: y1 + reach };
  }
}

/** True where two boxes touch: what reaches in from far away does not stray. */
function contains(near: Box, box: Box): boolean {
  return box.xmin <= near.xmax && box.xmax >= near.xmin && box.ymin <= near.ymax && box.ymax >= near.ymin;
}
