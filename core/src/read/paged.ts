import {
  COLOUR_FOREGROUND,
  LINE_TYPE_BY_LAYER,
  WEIGHT_BY_LAYER,
  WEIGHT_DEFAULT,
  type Drawing,
  type Entity,
  type Layer,
  type Style,
} from '../drawing/model';
import type { PaperSize } from '../paper/sizes';

/** A page of a file that is made of pages; entities in mm from its lower left corner. */
export interface PaperPage {
  name: string;
  paper: PaperSize;
  entities: Entity[];
}

/** The parts of a drawing that formats other than DXF have no use for. */
export const PLAIN_DRAWING = {
  lineTypeScale: 1,
  dashesOnPaper: false,
  pointStyle: { mode: 0, size: 0 },
  defaultWeight: 25,
  references: [],
} satisfies Partial<Drawing>;

/** A layer that shows and prints. */
export function plainLayer(name: string): Layer {
  return {
    name,
    colour: COLOUR_FOREGROUND,
    weight: WEIGHT_DEFAULT,
    lineType: 0,
    off: false,
    frozen: false,
    plots: true,
  };
}

/** Everything by layer. */
export function plainStyle(layer: number): Style {
  return {
    layer,
    colour: COLOUR_FOREGROUND,
    weight: WEIGHT_BY_LAYER,
    lineType: LINE_TYPE_BY_LAYER,
    lineTypeScale: 1,
  };
}

/** A drawing in mm whose layouts are the pages of a file; the first page is also its model. */
export function pagedDrawing(
  facts: Pick<Drawing, 'name' | 'format' | 'pictures'>,
  pages: readonly PaperPage[],
): Drawing {
  return {
    ...PLAIN_DRAWING,
    ...facts,
    unit: 'mm',
    layers: [plainLayer('Page')],
    lineTypes: [{ name: 'CONTINUOUS', dashes: [] }],
    textStyles: [],
    blocks: new Map(),
    spaces: [
      { name: 'model', kind: 'model', entities: pages[0]?.entities ?? [] },
      ...pages.map(({ name, paper, entities }) => ({
        name,
        kind: 'layout' as const,
        entities,
        plot: { paper, originX: 0, originY: 0, mmPerUnit: 1 },
      })),
    ],
  };
}

/** A picture that fills a page. */
export function fullPage(picture: number, { width, height }: PaperSize): Entity {
  const map = { a: width, b: 0, c: 0, d: height, e: 0, f: 0 };
  return { kind: 'picture', style: plainStyle(0), handle: '', picture, map };
}
