import { Path } from '../../geometry/path';
import { lengthIn, numbersIn } from './numbers';
import { pathOf } from './path-data';
import type { XmlNode } from './xml';

/** Lengths that percentages refer to, user units. */
export interface Viewport {
  width: number;
  height: number;
}

/** What radii and line widths in per cent refer to (SVG 1.1, 7.10), user units. */
export function diagonalOf({ width, height }: Viewport): number {
  return Math.hypot(width, height) / Math.SQRT2;
}

/** Share of a radius at which the handles of a quarter circle's Bézier lie. */
const QUARTER = (4 / 3) * Math.tan(Math.PI / 8);

/** The path of a shape element (SVG 1.1, 8 and 9), in user units; undefined for other elements. */
export function shapePath(node: XmlNode, viewport: Viewport): Path | undefined {
  const { attributes } = node;
  const x = (name: string): number => lengthIn(attributes[name], viewport.width, 0);
  const y = (name: string): number => lengthIn(attributes[name], viewport.height, 0);
  switch (node.name) {
    case 'path':
      return pathOf(attributes['d'] ?? '');
    case 'line':
      return polygon([x('x1'), y('y1'), x('x2'), y('y2')], false);
    case 'polyline':
    case 'polygon':
      return polygon(numbersIn(attributes['points'] ?? ''), node.name === 'polygon');
    case 'circle': {
      const radius = lengthIn(attributes['r'], diagonalOf(viewport), 0);
      return ellipse(x('cx'), y('cy'), radius, radius);
    }
    case 'ellipse':
      return ellipse(x('cx'), y('cy'), x('rx'), y('ry'));
    case 'rect':
      return rectangle(node, viewport);
    default:
      return undefined;
  }
}

function polygon(points: number[], closed: boolean): Path {
  const path = new Path();
  for (let i = 0; i + 1 < points.length; i += 2) {
    if (i === 0) path.moveTo(points[0]!, points[1]!);
    else path.lineTo(points[i]!, points[i + 1]!);
  }
  if (closed && points.length >= 4) path.close();
  return path;
}

function ellipse(cx: number, cy: number, rx: number, ry: number): Path {
  const path = new Path();
  if (!(rx > 0 && ry > 0)) return path;
  path.moveTo(cx + rx, cy);
  for (let quarter = 0; quarter < 4; quarter++) {
    const [c, s] = [
      [1, 0],
      [0, 1],
      [-1, 0],
      [0, -1],
    ][quarter] as [number, number];
    const at = (u: number, v: number): [number, number] => [cx + rx * (c * u - s * v), cy + ry * (s * u + c * v)];
    path.curveTo(...at(1, QUARTER), ...at(QUARTER, 1), ...at(0, 1));
  }
  path.close();
  return path;
}

function rectangle({ attributes }: XmlNode, viewport: Viewport): Path {
  const x = lengthIn(attributes['x'], viewport.width, 0);
  const y = lengthIn(attributes['y'], viewport.height, 0);
  const width = lengthIn(attributes['width'], viewport.width, 0);
  const height = lengthIn(attributes['height'], viewport.height, 0);
  if (!(width > 0 && height > 0)) return new Path();
  const one = lengthIn(attributes['rx'], viewport.width, NaN);
  const two = lengthIn(attributes['ry'], viewport.height, NaN);
  const rx = Math.min(width / 2, Math.max(0, (Number.isNaN(one) ? two : one) || 0));
  const ry = Math.min(height / 2, Math.max(0, (Number.isNaN(two) ? one : two) || 0));
  if (rx === 0 || ry === 0) return polygon([x, y, x + width, y, x + width, y + height, x, y + height], true);
  const path = new Path();
  const [kx, ky] = [rx * (1 - QUARTER), ry * (1 - QUARTER)];
  const [right, bottom] = [x + width, y + height];
  path.moveTo(x + rx, y);
  path.lineTo(right - rx, y);
  path.curveTo(right - kx, y, right, y + ky, right, y + ry);
  path.lineTo(right, bottom - ry);
  path.curveTo(right, bottom - ky, right - kx, bottom, right - rx, bottom);
  path.lineTo(x + rx, bottom);
  path.curveTo(x + kx, bottom, x, bottom - ky, x, bottom - ry);
  path.lineTo(x, y + ry);
  path.curveTo(x, y + ky, x + kx, y, x + rx, y);
  path.close();
  return path;
}
