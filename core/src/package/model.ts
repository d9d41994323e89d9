import { paperOfChoice, type OwnPaper, type PaperChoice } from '../paper/sizes';
import { leavesRoom, type Tiling } from '../paper/tiles';
import type { ColourMode } from '../pens/ink';

/** How a package's pages are put into files. */
export type Bundling = 'one' | 'sheet' | 'group';

export interface Recipe {
  id: string;
  name: string;
  colour: ColourMode;
  /** Id of the pen schedule; absent: lines print as they are drawn. */
  pens?: string;
  /** No line is thinner, mm; absent: as thin as they are drawn. */
  leastWeight?: number;
  /** By how much all lines are thinner or heavier; absent: 1. */
  weightFactor?: number;
  /** Pictures have at most so many dots to the inch on paper, 72 to 1200; absent: as many as they have. */
  pictureDpi?: number;
  /** Quality of pictures as JPEG, 1 to 100; absent: without loss, or as they came. */
  pictureQuality?: number;
  /** How links between sheets and to addresses look; `none`: there are no links. Absent: they are not seen. */
  links?: 'none' | 'plain' | 'underlined' | 'tinted';
  /** Version of PDF, or `A-2b` for keeping (ISO 19005-2); absent: 1.7. */
  version?: '1.4' | '1.7' | '2.0' | 'A-2b';
  /** Of job files only: passwords to open a file and to change it, and what may be done without the latter. */
  protect?: { open?: string; change?: string; allow?: ('print' | 'change' | 'copy')[] };
  /** `shown`: the visible layers can be switched in the PDF; `all`: hidden ones too, at first off; `none`: it has none. */
  layers: 'none' | 'shown' | 'all';
  /** True where layers are listed by view under their drawings. */
  layersByView?: true;
  /** Patterns of layers that readers cannot switch, and of those that print and are not seen on screen. */
  layersLocked?: string[];
  layersPrintOnly?: string[];
  /**
   * How texts are seen, over text that is found but not seen; absent: as text. `strokes`: single-stroke lettering as
   * lines, the rest as text.
   */
  text?: 'strokes' | 'outlines' | 'picture';
  /** Pictures in black and white only; absent: in the tones that the colours say. */
  pictureTone?: 'bilevel';
  /** By how many degrees clockwise pages are turned when shown and printed; absent: not. */
  turn?: 90 | 180 | 270;
  /** How the first page is shown when the file is opened; absent: the whole page. */
  opens?: 'page' | 'width' | 'full-size';
  /** True where the file is laid out so that its first page shows before the rest has come over a network. */
  linearised?: true;
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
  /** Has sheets larger than a paper go on several pages of it; absent: each sheet is one page. */
  tiles?: { paper: PaperChoice; overlap: number };
}

/** How the sheets of a package are tiled; undefined where they are not, or cannot be by this paper and overlap. */
export function tilingOf(
  { tiles }: Pick<SheetPackage, 'tiles'>,
  { papers }: { papers?: OwnPaper[] },
): Tiling | undefined {
  if (!tiles) return undefined;
  const paper = paperOfChoice(tiles.paper, papers);
  const tiling = paper && { paper, overlap: tiles.overlap };
  return tiling && leavesRoom(tiling) ? tiling : undefined;
}

/** A recipe as it may be kept: passwords are not, they are asked for with each run. */
export function withoutPasswords({ protect: _, ...recipe }: Recipe): Recipe {
  return recipe;
}

export const STANDARD_RECIPE: Recipe = { id: '', name: 'Full colour, layers', colour: 'full', layers: 'shown' };

export const STANDARD_NAMES: SheetPackage['names'] = {
  file: '[sheet.number](? [sheet.title])',
  folder: '',
  bundle: '[project.number] [package.name]',
};
