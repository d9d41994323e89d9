import type { PaperPlacement } from '../page/resize';
import { plotterMargins, type Plotter } from '../paper/plotters';
import { paperOfChoice, type NamedPaper, type OwnPaper, type PaperChoice } from '../paper/sizes';
import { isUsableTiling, type Tiling } from '../paper/tiles';
import type { PrintedStamp } from '../sheet/stamps';
import type { ValuesOf } from '../settings/descriptor';
import type { Destination } from './destination-kinds';
import type { ExtraFormat, ExtraFormats } from './formats';
import type { BUNDLING_OPTIONS, PACKAGE_OPTIONS, PAGE_OPTIONS } from './options';

/** How a package's pages are put into files. */
export type Bundling = (typeof BUNDLING_OPTIONS)[number]['value'];

/** What of one page of a package is not as of the others. */
export interface PageOptions extends ValuesOf<typeof PAGE_OPTIONS> {
  /** The paper that it is printed on, enlarged or reduced; absent: its own. */
  paper?: NamedPaper;
  /** The formats that it is written in besides PDF; absent: those of the package. */
  extraFormats?: ExtraFormat[];
  /** Printed on it besides those of the package. */
  stamps?: PrintedStamp[];
}

const PLACEMENT_KEYS: readonly string[] = [
  'paper',
  'percent',
  'within',
  'corner',
  'offsetX',
  'offsetY',
] satisfies (keyof PageOptions)[];

/** True of the options that say how a page is put on paper. */
export function isPlacementKey(key: string): boolean {
  return PLACEMENT_KEYS.includes(key);
}

/** A page that a package adds between sheets: a title by itself, the list of what follows with links, or a drawing's space. */
export interface ExtraPage {
  /** Its id in the order, like that of a sheet. */
  id: string;
  kind: 'divider' | 'index' | 'space';
  number: string;
  title: string;
  /** Of a space: the drawing, and the layout that is taken over as it is, or `model`, which is fitted on A3. */
  drawing?: string;
  space?: string;
}

/** Which sheets a package takes in by itself, besides those placed by hand. */
export interface MemberRule {
  /** Ids of groups. */
  groups: string[];
  /** Patterns of numbers or titles that stay out, such as drafts. */
  without?: string[];
}

export interface SheetPackage extends ValuesOf<typeof PACKAGE_OPTIONS> {
  id: string;
  name: string;
  /** Id of the recipe; empty for the standard one. */
  recipe: string;
  /** Ids of sheets, in reading order. */
  order: string[];
  names: { file: string; folder: string; bundle: string };
  /** By page. */
  pages?: Record<string, PageOptions>;
  extras?: ExtraPage[];
  members?: MemberRule;
  /** Pages that stay right behind another, whatever the order is sorted by. */
  after?: Record<string, string>;
  /** Printed on every page; their texts may have fields. */
  stamps?: PrintedStamp[];
  /** Findings that somebody accepted, by `findingKey`, and why. */
  accepted?: { finding: string; reason: string }[];
  /** Has sheets larger than a paper go on several pages of it; absent: each sheet is one page. */
  tiles?: { paper: PaperChoice; overlap: number };
  /** What its sheets are written in besides PDF; absent: nothing. */
  extraFormats?: ExtraFormats;
  /** Where its files are delivered to; absent: they are downloaded. */
  destinations?: Destination[];
}

/** How the sheets of a package are tiled; undefined where they are not, or cannot be by this paper and overlap. */
export function tilingOf(
  { tiles }: Pick<SheetPackage, 'tiles'>,
  { papers }: { papers?: OwnPaper[] },
): Tiling | undefined {
  if (!tiles) return undefined;
  const paper = paperOfChoice(tiles.paper, papers);
  const tiling = paper && { paper, overlap: tiles.overlap };
  return tiling && isUsableTiling(tiling) ? tiling : undefined;
}

/** What of a project says how pages lie on paper. */
type PapersAndPlotters = { papers?: OwnPaper[]; plotters?: Plotter[]; plotter?: string };

/** How a page is put on paper; undefined where it is printed as it is, or on a paper that is not there. */
export function placementOfPage(
  { pages }: Pick<SheetPackage, 'pages'>,
  id: string,
  project: PapersAndPlotters,
): PaperPlacement | undefined {
  const { paper: choice, percent, within, corner, offsetX: x, offsetY: y } = pages?.[id] ?? {};
  const paper = choice && paperOfChoice(choice, project.papers);
  const stated = { ...(paper && { paper }), ...(percent && { percent }), ...(corner && { corner }) };
  const margins = within && plotterMargins(project);
  const placement = { ...stated, ...(margins?.some(Boolean) && { margins }), ...(x && { x }), ...(y && { y }) };
  return Object.keys(placement).length > 0 ? placement : undefined;
}

/** How a page goes on paper: put on one, on several of one, or, with neither, on its own. */
export function paperPlacement(
  pack: Pick<SheetPackage, 'pages' | 'tiles'>,
  id: string,
  project: PapersAndPlotters,
): { onto?: PaperPlacement; tiling?: Tiling } {
  const onto = placementOfPage(pack, id, project);
  if (onto) return { onto };
  const tiling = tilingOf(pack, project);
  return tiling ? { tiling } : {};
}

export const STANDARD_NAMES: SheetPackage['names'] = {
  file: '[sheet.number](? [sheet.title])',
  folder: '',
  bundle: '[project.number] [package.name]',
};
