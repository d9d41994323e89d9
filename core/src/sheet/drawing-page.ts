import { height, width } from '../geometry/box';
import type { Drawing, Space } from '../drawing/model';
import { PageBuilder } from '../page/builder';
import type { Page } from '../page/page';
import type { FontSet } from '../text/layout';
import { extentsOf, type Extents } from './extents';
import { placeView, windowToPaper } from './place-view';

/** Longer side of the page of a miniature, and its margin, mm. */
export const MINIATURE = { longestMm: 120, marginMm: 3 } as const;

/** A space of a drawing as one large page, to be looked at closely. */
export interface DrawingPage {
  page: Page;
  /** mm of the page to a unit of the drawing. */
  mmPerUnit: number;
  /** What of the drawing lies in the page's lower left corner. */
  origin: [x: number, y: number];
  /** What lies too far off to be on the page. */
  strays: Extents['strays'];
}

/** Longer side of the page, mm: as large as whole hundredths of a millimetre reach with room around. */
const MAX_MM = 4_000_000;
const MARGIN = 0.02;

/** Places everything visible of a space on a page, each mark with its entity; undefined where nothing is visible. */
export function drawingPage(drawing: Drawing, space: Space, fonts: FontSet): DrawingPage | undefined {
  const { box: extents, strays } = extentsOf(drawing, space.entities, fonts);
  if (!extents) return undefined;
  const longest = Math.max(width(extents), height(extents)) || 1;
  // A power of ten, so that lengths measured on the page come out round.
  const mmPerUnit = 10 ** Math.floor(Math.log10(MAX_MM / longest));
  const margin = longest * MARGIN;
  const area = {
    xmin: extents.xmin - margin,
    ymin: extents.ymin - margin,
    xmax: extents.xmax + margin,
    ymax: extents.ymax + margin,
  };
  const builder = new PageBuilder(width(area) * mmPerUnit, height(area) * mmPerUnit);
  const map = windowToPaper(area, 1, mmPerUnit, 0, 0);
  placeView(builder, fonts, drawing, space.entities, map, undefined, new Set(), { tagged: true });
  return { page: builder.build(), mmPerUnit, origin: [area.xmin, area.ymin], strays };
}
