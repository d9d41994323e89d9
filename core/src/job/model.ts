import type { LengthUnit } from '../measure/units';
import type { SheetPackage } from '../package/model';
import type { Recipe } from '../recipe/recipe';
import type { Group } from '../sheet/groups';
import type { ProjectFacts, Sheet } from '../sheet/model';

export interface JobFileDrawing {
  id: string;
  /** Path of the file, relative to the job file. */
  file: string;
  /** Overrides the unit that the drawing states; needed where it states none. */
  unit: LengthUnit | undefined;
  /** Windows of its model that have names. */
  windows?: NamedWindow[];
}

/** A named rectangle in a drawing's model, to be shown in a view. */
export interface NamedWindow {
  name: string;
  /** Drawing units. */
  window: [xmin: number, ymin: number, xmax: number, ymax: number];
}

/** A project, or part of one, as a job file holds it, with everything left out filled in. */
export interface JobFile {
  project: ProjectFacts;
  drawings: JobFileDrawing[];
  groups: Group[];
  recipes: Recipe[];
  sheets: Sheet[];
  packages: SheetPackage[];
}
