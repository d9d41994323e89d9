import { height, width } from '../geometry/box';
import { PageBuilder } from '../page/builder';
import { inColour, type Page, type Pen } from '../page/page';
import { placeView, windowToPaper } from '../sheet/place-view';
import type { FontSet } from '../text/layout';
import type { Drawing, Entity } from '../drawing/model';
import { extentsOfBoth, type ChangedEntities, type DrawingChanges } from './drawings';

const SIDE_MM = 240;
const MARGIN_MM = 4;
/** How each kind is marked: added lines are solid and heavy, removed ones dashed, so that colour alone carries no meaning. */
const LOOKS = {
  kept: { colour: 0xb9b4a8, least: 0, dashes: undefined },
  removed: { colour: 0xc2410c, least: 35, dashes: [160, 90] },
  added: { colour: 0x0f6b78, least: 60, dashes: [] },
} as const;

/** A page that shows both versions of a drawing's model over each other; undefined where neither shows anything. */
export function changesPage(
  before: Drawing,
  after: Drawing,
  model: ChangedEntities,
  changes: DrawingChanges,
  fonts: FontSet,
): Page | undefined {
  const extents = extentsOfBoth(changes);
  if (!extents) return undefined;
  const longest = Math.max(width(extents), height(extents)) || 1;
  const scale = (SIDE_MM - 2 * MARGIN_MM) / longest;
  const size = { width: width(extents) * scale + 2 * MARGIN_MM, height: height(extents) * scale + 2 * MARGIN_MM };
  const builder = new PageBuilder(size.width, size.height);
  const map = windowToPaper(extents, 1, scale, MARGIN_MM, MARGIN_MM);
  const ends: number[] = [];
  const draw = (drawing: Drawing, entities: Entity[]): void => {
    placeView(builder, fonts, drawing, entities, map, undefined, new Set());
    ends.push(builder.markCount);
  };
  draw(after, model.kept);
  draw(after, model.added);
  // Last, so that between its dashes what came in its place is seen.
  draw(before, model.removed);
  return marked(builder.build(), ends);
}

/** Gives the marks of each kind the pens of that kind. */
function marked(page: Page, ends: readonly number[]): Page {
  const pens: Pen[] = [];
  const known = new Map<string, number>();
  const pen = page.pen.slice();
  for (let mark = 0; mark < page.markCount; mark++) {
    const kind = mark < ends[0]! ? 'kept' : mark < ends[1]! ? 'added' : 'removed';
    const key = `${kind} ${page.pen[mark]}`;
    let index = known.get(key);
    if (index === undefined) {
      index = pens.push(penOf(page.pens[page.pen[mark]!], kind)) - 1;
      known.set(key, index);
    }
    pen[mark] = index;
  }
  return { ...page, pens, pen };
}

const PLAIN: Pen = { width: 0, colour: 0, dashes: [], round: true, opacity: 100 };

function penOf(own: Pen = PLAIN, kind: keyof typeof LOOKS): Pen {
  const { colour, least, dashes } = LOOKS[kind];
  // White covers what is below it, and masks are brightness: neither changes.
  if (own.colour === 0xffffff || own.masks) return own;
  return { ...inColour(own, colour), width: Math.max(own.width, least), dashes: dashes ?? own.dashes };
}
