import type { Box } from '../geometry/box';
import type { LetteringFacts } from '../page/lettering-facts';
import type { Outside } from '../page/outside';
import type { PaperSize } from '../paper/sizes';
import type { Problem } from '../problem';

/** What composing a sheet told of it that checks look at; lengths in mm on its paper. */
export interface ComposedFacts {
  paper: PaperSize;
  views: { id: string; scale: number; box: Box }[];
  viewports: { scale: number; box: Box }[];
  outside: Outside;
  /** Marks that reach over its frame; 0 where it has none. */
  overFrame: number;
  /** Its pictures; those of placed PDF pages are none. */
  pictures: readonly unknown[];
  lettering: LetteringFacts;
  /** Words in its texts that may be numbers of sheets. */
  names: string[];
  warnings: Problem[];
}
