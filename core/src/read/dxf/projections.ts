import type { Vector } from '../../geometry/vector';
import { projectionFrom, type Projection } from './projection';

/** Directions that differ by less are one. */
const SAME = 1e-9;
/** The model is read anew for each direction of view: the most such readings. */
const MOST_PROJECTIONS = 24;

/** The projections of the model that the viewports of a file show, each once. */
export class Projections {
  readonly all: Projection[] = [];

  /** The projection seen from a direction, and its number; undefined where there are too many. */
  from(direction: Vector): { index: number; projection: Projection } | undefined {
    const projection = projectionFrom(direction);
    const same = (other: Projection): boolean =>
      other.flat().every((value, i) => Math.abs(value - projection.flat()[i]!) < SAME);
    const known = this.all.findIndex(same);
    if (known < 0 && this.all.length >= MOST_PROJECTIONS) return undefined;
    return { index: known >= 0 ? known : this.all.push(projection) - 1, projection };
  }
}
