import type { RecipeValues } from './settings';

/** Output settings under a name. */
export type Recipe = RecipeValues & {
  id: string;
  name: string;
  /** Of job files only: passwords to open a file and to change it, and what may be done without the latter. */
  protect?: { open?: string; change?: string; allow?: ('print' | 'change' | 'copy')[] };
};

/** A recipe as it may be kept: passwords are not, they are asked for with each run. */
export function withoutPasswords({ protect: _, ...recipe }: Recipe): Recipe {
  return recipe;
}

export const STANDARD_RECIPE: Recipe = { id: '', name: 'Full colour, layers', colour: 'full', layers: 'shown' };
