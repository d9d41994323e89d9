import type { Vector } from '../../geometry/vector';
import { sightFrom, type Sight } from './sight';

/** Directions that differ by less are one. */
const SAME_DIRECTION = 1e-9;
/** The model is read anew for each direction of view: the most such readings. */
const MOST_SIGHTS = 24;

/** The projections of the model that the viewports of a file show, each once. */
export class Sights {
  readonly all: Sight[] = [];

  /** The projection seen from a direction, and its number; undefined where there are too many. */
  from(direction: Vector): { index: number; sight: Sight } | undefined {
    const sight = sightFrom(direction);
    const same = (other: Sight): boolean =>
      other.flat().every((value, i) => Math.abs(value - sight.flat()[i]!) < SAME_DIRECTION);
    const known = this.all.findIndex(same);
    if (known < 0 && this.all.length >= MOST_SIGHTS) return undefined;
    return { index: known >= 0 ? known : this.all.push(sight) - 1, sight };
  }
}
