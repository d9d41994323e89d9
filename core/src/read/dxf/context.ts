import type { Block, PlainEntity } from '../../drawing/model';
import type { Place } from '../../problem';
import type { Warnings } from '../warnings';
import type { Doubles } from './doubles';
import type { Multiline } from './mline';
import type { NameTables } from './names';
import type { Projection } from './projection';
import type { Projections } from './projections';
import type { Record } from './record';

/** What the entity readers share. */
export interface EntityContext {
  names: NameTables;
  warnings: Warnings;
  doubles: Doubles;
  /** Index of the picture behind the handle of an IMAGEDEF, whose file is named only later. */
  linked(definition: string, place: Place): number;
  /** Key of a new block that shows an entity inside loops only, or as a group. */
  wrapped(entity: PlainEntity, how: Pick<Block, 'clip' | 'group'>): string;
  /** The projections of the model that viewports show. */
  projections: Projections;
  /** The one that is being read; from above, unless the model is read once more. */
  projection: Projection;
  /** Key of a new block that shows an MLINE once its style is known. */
  multiline(line: Multiline): string;
  /**
   * Key of the block that shows a dimension or table: the named one, or what `drawn` makes where there is none.
   * Undefined without either.
   */
  drawnBlock(block: string, drawn: () => PlainEntity[] | undefined): string | undefined;
}

/** Where an entity is in its file and in the drawing. */
export function placeOf(record: Record): Place & { layer: string } {
  const place = { handle: record.text(5), layer: record.text(8), line: record.line };
  const [x, y] = [record.number(10, NaN), record.number(20, NaN)];
  return Number.isFinite(x) && Number.isFinite(y) ? { ...place, at: [x, y] } : place;
}
