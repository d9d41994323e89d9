import type { Affine } from '../geometry/affine';
import type { Box } from '../geometry/box';
import type { LetteringFacts } from '../page/lettering-facts';
import type { Outside } from '../page/outside';
import type { PaperSize } from '../paper/sizes';
import type { Problem } from '../problem';
import type { PlacedNote } from '../sheet/notes/draw';
import type { BlankCell } from '../sheet/composed';
import type { PictureFacts } from './picture-sizes';

/** What checks need to know of a composed sheet; lengths in mm on its paper. */
export interface ComposedFacts {
  paper: PaperSize;
  views: { id: string; scale: number; box: Box }[];
  viewports: { scale: number; box: Box }[];
  outside: Outside;
  /** The box around everything but its frame; absent where there is nothing, or it was not looked at. */
  ink?: Box;
  /** Marks that reach over its frame; 0 where it has none. */
  overFrame: number;
  /** Its pictures; those of placed PDF pages are none. */
  pictures: readonly unknown[];
  /** True where it paints with gradients. */
  gradients?: true;
  /** True where it has masks, or groups that are transparent as a whole. */
  transparencyGroups?: true;
  lettering: LetteringFacts;
  /** Words in its texts that may be numbers of sheets. */
  names: string[];
  warnings: Problem[];
}

/** What the screen shows of a composed sheet; lengths in mm on its paper. */
export interface SheetFacts extends ComposedFacts {
  /** Its views, with the scale of each as paper over real length. */
  views: { id: string; scale: number; box: Box; toPaper: Affine }[];
  notes: PlacedNote[];
  /** Required cells of the title block that have no value. */
  blanks: BlankCell[];
  /** What of the paper the chosen plotter can print on. */
  printable: Box;
  /** Its pictures, as they would go into a file unchanged. */
  pictures: PictureFacts[];
}
