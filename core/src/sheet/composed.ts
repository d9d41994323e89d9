import type { ProblemCode } from '../problem-codes';
import type { Drawing } from '../drawing/model';
import type { Affine } from '../geometry/affine';
import type { Box } from '../geometry/box';
import type { Scale } from '../measure/scale';
import type { LengthUnit } from '../measure/units';
import type { Page } from '../page/page';
import type { PaperPlacement, Resizing } from '../page/resize';
import type { PaperSize } from '../paper/sizes';
import { ProblemError, type Problem } from '../problem';
import type { FontSet } from '../text/layout';
import type { SheetContext } from './context';
import type { ProjectFacts, Sheet, View } from './model';
import type { PlacedNote } from './notes/draw';

/** A drawing as a sheet uses it: its content and the unit it is in (its own, or the one stated for it). */
export interface SourceDrawing {
  drawing: Drawing;
  /** Undefined where nobody said: only layouts can then be shown, which lie on paper already. */
  unit: LengthUnit | undefined;
}

export interface ComposeInput {
  project: ProjectFacts;
  sheet: Sheet;
  fonts: FontSet;
  /** What it shows of the sheets and the package around it. */
  context?: SheetContext;
  /** Draws hidden layers too, marked as switched off. */
  everything?: boolean;
  /** How it will be put on paper, which it then says; absent: it is printed as it is. */
  onto?: PaperPlacement;
  /** Has the page, but not its line weights, come out so many times as large. */
  enlarged?: number;
  /** Has the page say which marks are of which block reference. */
  withBlocks?: boolean;
  /** The drawing of an id (the version held, where one is), or undefined when the project has no such drawing. */
  source(id: string, held?: number): SourceDrawing | undefined;
}

/** A view once everything about it is known. */
export interface PlacedView {
  view: View;
  scale: Scale;
  /** On the paper, mm. */
  box: Box;
  /** From the drawing's unit and coordinates to mm on the paper. */
  toPaper: Affine;
}

export interface ComposedSheet {
  page: Page;
  paper: PaperSize;
  /** How it goes on the paper that it is printed on; absent where that is its own. */
  resizing?: Resizing;
  /** Where its frame runs, mm; absent where it has none of its own. */
  frame?: Box;
  views: PlacedView[];
  /** What the viewports of a layout show, where the drawing's unit is known. */
  viewports: { scale: Scale; box: Box; unit: LengthUnit }[];
  notes: PlacedNote[];
  /** Required cells of the title block that have no value, mm on the paper. */
  blanks: BlankCell[];
  warnings: Problem[];
}

export interface BlankCell {
  caption: string;
  box: Box;
}

/** Why a sheet cannot be composed, to be thrown. */
export function refuse(code: ProblemCode, sentence: string, sheet: Pick<Sheet, 'number'>): ProblemError {
  return new ProblemError({ code, sentence, place: { sheet: sheet.number } });
}
