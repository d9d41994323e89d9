import type { ColourMode } from '../pens/ink';

/** How a package's pages are put into files. */
export type Bundling = 'one' | 'sheet' | 'group';

export interface Recipe {
  id: string;
  name: string;
  colour: ColourMode;
  /** `shown`: the visible layers can be switched in the PDF; `none`: it has no layers. */
  layers: 'none' | 'shown';
}

export interface SheetPackage {
  id: string;
  name: string;
  /** Id of the recipe; empty for the standard one. */
  recipe: string;
  /** Ids of sheets, in reading order. */
  order: string[];
  bundling: Bundling;
  names: { file: string; folder: string; bundle: string };
}

export const STANDARD_RECIPE: Recipe = { id: '', name: 'Full colour, layers', colour: 'full', layers: 'shown' };

export const STANDARD_NAMES: SheetPackage['names'] = {
  file: '[sheet.number](? [sheet.title])',
  folder: '',
  bundle: '[project.number] [package.name]',
};
