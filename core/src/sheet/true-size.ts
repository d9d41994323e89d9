import { scaling, translation, multiply } from '../geometry/affine';
import { emptyBox, height, isEmpty, mappedBox, union, width, type Box } from '../geometry/box';
import type { Scale } from '../measure/scale';
import { MM_PER_UNIT } from '../measure/units';
import { spaceOf, type Drawing, type Entity } from '../drawing/model';
import { PageBuilder } from '../page/builder';
import type { Page } from '../page/page';
import { refuse, type ComposeInput } from './composed';
import { visibleExtents } from './extents';
import type { Sheet } from './model';
import { placeView } from './place-view';
import { sizeView } from './size-view';

/** Something on the paper, mm, at a scale. */
interface AtScale {
  scale: Scale;
  box: Box;
}

/** The scale of what takes most of the paper; undefined where nothing has one. */
export function mainScale({ views, viewports }: Record<'views' | 'viewports', readonly AtScale[]>): Scale | undefined {
  const areaOf = ({ box }: AtScale): number => width(box) * height(box);
  return [...views, ...viewports].sort((a, b) => areaOf(b) - areaOf(a))[0]?.scale;
}

/** What a sheet shows, at true size. */
export interface ModelPage {
  page: Page;
  /** Where the page's lower left corner lies in the coordinates of the drawings, mm. */
  x: number;
  y: number;
}

/** The longest page in whole hundredths of a millimetre, mm. */
const LONGEST_MM = 20_000_000;

/** What of a drawing is wanted, mm in its own coordinates. */
interface Wanted {
  drawing: Drawing;
  entities: readonly Entity[];
  mmPerUnit: number;
  area: Box;
  /** Layers that no view of it shows. */
  hidden: ReadonlySet<string>;
}

/**
 * The drawings that a sheet shows at true size in their own coordinates, each once: what lies within the windows of its
 * views, or the model behind a layout. Undefined where it shows none; throws a `ProblemError` where they reach so far that
 * they cannot be told to the hundredth of a millimetre.
 */
export function composeModels(input: ComposeInput): ModelPage | undefined {
  const all = input.sheet.from ? layoutModel(input, input.sheet.from) : viewModels(input);
  const area = emptyBox();
  for (const one of all) union(area, one.area);
  if (isEmpty(area)) return undefined;
  if (!(Math.max(width(area), height(area)) < LONGEST_MM)) {
    const sentence = `The drawings that the sheet shows reach over more than ${LONGEST_MM / 1e6} km, too far for a DXF of them; write the whole sheet at true size.`;
    throw refuse('dxf.too-large', sentence, input.sheet);
  }
  const builder = new PageBuilder(width(area), height(area), 1, input.withBlocks);
  for (const { drawing, entities, mmPerUnit, area: own, hidden } of all) {
    const map = multiply(translation(-area.xmin, -area.ymin), scaling(mmPerUnit));
    const clip = mappedBox(translation(-area.xmin, -area.ymin), own);
    const { everything = false } = input;
    placeView(builder, input.fonts, drawing, entities, map, clip, hidden, { everything });
  }
  return { page: builder.build(), x: area.xmin, y: area.ymin };
}

function viewModels(input: ComposeInput): Wanted[] {
  const found = new Map<unknown, Wanted>();
  for (const view of input.sheet.views) {
    const { drawing, space, mmPerUnit, window } = sizeView(view, input);
    const hidden = new Set(view.layersOff.map((name) => name.toLowerCase()));
    const known = found.get(space);
    const area = known?.area ?? emptyBox();
    union(area, mappedBox(scaling(mmPerUnit), window));
    const both = known ? new Set([...known.hidden].filter((name) => hidden.has(name))) : hidden;
    found.set(space, { drawing, entities: space.entities, mmPerUnit, area, hidden: both });
  }
  return [...found.values()];
}

function layoutModel({ source, fonts }: ComposeInput, from: NonNullable<Sheet['from']>): Wanted[] {
  const { drawing, unit } = source(from.drawing, from.held) ?? {};
  const space = drawing && spaceOf(drawing, 'model');
  const layout = drawing && spaceOf(drawing, from.layout);
  if (!layout?.entities.some(({ kind }) => kind === 'viewport')) return [];
  const extents = space && visibleExtents(drawing, space.entities, fonts);
  if (!extents || !unit) return [];
  const mmPerUnit = MM_PER_UNIT[unit];
  const area = mappedBox(scaling(mmPerUnit), extents);
  return [{ drawing, entities: space.entities, mmPerUnit, area, hidden: new Set() }];
}
