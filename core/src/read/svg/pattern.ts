import { IDENTITY, inverse, determinant, multiply, scaling, translation, type Affine } from '../../geometry/affine';
import { mappedBox, type Box } from '../../geometry/box';
import { lengthIn } from './numbers';
import { inheritanceOf, nearest } from './references';
import { transformOf, viewBoxMap } from './transform';
import type { Viewport } from './shapes';
import type { XmlNode } from './xml';

/** More tiles than this on one shape are not drawn one by one. */
const MAX_TILES = 20_000;

/** A pattern as it covers a shape. */
export interface TiledPattern {
  /** The element whose content is shown. */
  content: XmlNode;
  /** The pattern's plane to user units. */
  map: Affine;
  /** The tile in its plane. */
  tile: Box;
  /** The content to the pattern's plane. */
  contentMap: Affine;
  columns: number;
  rows: number;
  /** How far the first tile lies from where the tile is stated, in its plane. */
  dx: number;
  dy: number;
}

/** Lays a pattern out over a box in user units (SVG 1.1, 13.3); a sentence where it cannot be, undefined for an empty one. */
export function tiled(
  node: XmlNode,
  byId: ReadonlyMap<string, XmlNode>,
  box: Box,
  viewport: Viewport,
): TiledPattern | string | undefined {
  const chain = inheritanceOf(node, byId);
  const content = chain.find(({ children }) => children.some(({ name }) => name !== ''));
  const attribute = (name: string): string | undefined => nearest(chain, name);
  const [boxWidth, boxHeight] = [box.xmax - box.xmin, box.ymax - box.ymin];
  if (!content || !(boxWidth >= 0 && boxHeight >= 0)) return undefined;
  const inBox = attribute('patternUnits') !== 'userSpaceOnUse';
  const length = (name: string, whole: number, side: number): number =>
    lengthIn(attribute(name), inBox ? 1 : whole, 0) * (inBox ? side : 1);
  const [x, y] = [length('x', viewport.width, boxWidth), length('y', viewport.height, boxHeight)];
  const [width, height] = [length('width', viewport.width, boxWidth), length('height', viewport.height, boxHeight)];
  if (!(width > 0 && height > 0)) return undefined;
  const [left, top] = inBox ? [box.xmin + x, box.ymin + y] : [x, y];
  const tile = { xmin: left, ymin: top, xmax: left + width, ymax: top + height };
  const map = transformOf(attribute('patternTransform'));
  if (!(Math.abs(determinant(map)) > 1e-12)) return undefined;
  const covered = mappedBox(inverse(map), box);
  const [column, row] = [Math.floor((covered.xmin - left) / width), Math.floor((covered.ymin - top) / height)];
  const columns = Math.max(1, Math.ceil((covered.xmax - left) / width) - column);
  const rows = Math.max(1, Math.ceil((covered.ymax - top) / height) - row);
  if (!(columns * rows <= MAX_TILES)) return `A pattern of more than ${MAX_TILES} tiles is shown as a grey tint.`;
  const viewBox = attribute('viewBox');
  const inUnits = attribute('patternContentUnits') === 'objectBoundingBox';
  const boxMap = inUnits ? multiply(translation(box.xmin, box.ymin), scaling(boxWidth, boxHeight)) : IDENTITY;
  const contentMap = viewBox
    ? multiply(translation(left, top), viewBoxMap(viewBox, attribute('preserveAspectRatio'), width, height))
    : boxMap;
  return { content, map, tile, contentMap, columns, rows, dx: column * width, dy: row * height };
}
