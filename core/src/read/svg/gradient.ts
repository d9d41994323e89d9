import { meanColour, meanOpacity, type Gradient, type GradientStop } from '../../drawing/gradient';
import { apply, determinant, inverse, multiply, type Affine } from '../../geometry/affine';
import { expanded, mappedBox, type Box } from '../../geometry/box';
import { colourOf, type Paint } from './colour';
import type { StyleSheet } from './css';
import { inheritanceOf, nearest } from './references';
import { declarationsFor } from './style';
import { lengthIn } from './numbers';
import { diagonalOf, type Viewport } from './shapes';
import { transformOf } from './transform';
import type { XmlNode } from './xml';

/** What a gradient is used on. */
export interface PaintedShape {
  /** Around it, in user units; empty boxes have no gradients in shares of them. */
  box: Box;
  /** How far its strokes stand out of that box at most, user units. */
  reach: number;
  /** User units to those of the drawing. */
  map: Affine;
  /** What lengths in per cent refer to. */
  viewport: Viewport;
}

/** A gradient repeats at most so often; a denser one is painted in its mean colour. */
const MAX_REPEATS = 200;
/** The focus of a radial gradient lies within its circle (SVG 1.1, 13.2.3). */
const FOCUS_WITHIN = 0.999;

/**
 * The gradient that an element stands for on a shape, in the units of the drawing (SVG 1.1, 13.2); undefined for what is no
 * gradient, has no stops, or cannot be laid out.
 */
export function gradientPaint(
  node: XmlNode,
  byId: ReadonlyMap<string, XmlNode>,
  sheet: StyleSheet,
  shape: PaintedShape,
): Paint | undefined {
  const chain = inheritanceOf(node, byId);
  const stops = stopsOf(
    chain.find(({ children }) => children.some(isStop)),
    sheet,
  );
  const [first, last] = [stops[0], stops.at(-1)];
  if (!first || !last) return undefined;
  const only = oneColour(stops);
  if (only) return only;
  const attribute = (name: string): string | undefined => nearest(chain, name);
  const inBox = attribute('gradientUnits') !== 'userSpaceOnUse';
  const { box } = shape;
  const [width, height] = [box.xmax - box.xmin, box.ymax - box.ymin];
  if (inBox && !(width > 0 && height > 0)) return undefined;
  const { viewport } = shape;
  const wholes = { x: viewport.width, y: viewport.height, r: diagonalOf(viewport) };
  const number: Lengths = (name, standard) => {
    const whole = inBox ? 1 : /r/.test(name) ? wholes.r : /x/.test(name) ? wholes.x : wholes.y;
    return lengthIn(attribute(name) ?? standard, whole, 0);
  };
  const own = node.name === 'radialGradient' ? radial(number) : linear(number);
  if (!own) return { colour: last.colour, alpha: last.opacity };
  const boxed: Affine = inBox
    ? { a: width, b: 0, c: 0, d: height, e: box.xmin, f: box.ymin }
    : { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };
  const toUser = multiply(multiply(boxed, transformOf(attribute('gradientTransform'))), own.map);
  if (!(Math.abs(determinant(toUser)) > 1e-12)) return { colour: last.colour, alpha: last.opacity };
  const once: Gradient = { ...own, map: toUser, stops };
  const spread = spreadOver(once, attribute('spreadMethod'), expanded(box, shape.reach));
  if (!spread) return { colour: meanColour(once), alpha: meanOpacity(once) };
  const gradient = { ...spread, map: multiply(shape.map, spread.map) };
  return { colour: meanColour(gradient), alpha: 1, gradient };
}

function isStop({ name }: XmlNode): boolean {
  return name === 'stop';
}

function stopsOf(node: XmlNode | undefined, sheet: StyleSheet): GradientStop[] {
  let at = 0;
  return (node?.children ?? []).filter(isStop).flatMap((stop): GradientStop[] => {
    const own = declarationsFor(stop, sheet);
    const text = (own['stop-color'] ?? 'black').trim();
    const colour = colourOf(/^currentcolor$/i.test(text) ? (own['color'] ?? 'black') : text) ?? { colour: 0, alpha: 1 };
    at = Math.max(at, share(own['offset'], 0));
    return [{ at, colour: colour.colour, opacity: colour.alpha * share(own['stop-opacity'], 1) }];
  });
}

/** A number or a percentage, 0…1. */
function share(text: string | undefined, standard: number): number {
  const value = parseFloat(text ?? '');
  if (!Number.isFinite(value)) return standard;
  return Math.min(1, Math.max(0, text!.trim().endsWith('%') ? value / 100 : value));
}

/** The colour of stops that are all alike. */
function oneColour([first, ...others]: readonly GradientStop[]): Paint | undefined {
  const alike = others.every(({ colour, opacity }) => colour === first!.colour && opacity === first!.opacity);
  return alike ? { colour: first!.colour, alpha: first!.opacity } : undefined;
}

/** The value of an attribute, or of what stands for it where it is missing. */
type Lengths = (name: string, standard: string) => number;
type Laid = Pick<Gradient, 'map' | 'from'>;

function linear(number: Lengths): Laid | undefined {
  const [x, y] = [number('x1', '0'), number('y1', '0')];
  const [dx, dy] = [number('x2', '100%') - x, number('y2', '0') - y];
  return dx === 0 && dy === 0 ? undefined : { map: { a: dx, b: dy, c: -dy, d: dx, e: x, f: y } };
}

function radial(number: Lengths): Laid | undefined {
  const [x, y, radius] = [number('cx', '50%'), number('cy', '50%'), number('r', '50%')];
  if (!(radius > 0)) return undefined;
  const [dx, dy] = [(number('fx', `${x}`) - x) / radius, (number('fy', `${y}`) - y) / radius];
  const far = Math.hypot(dx, dy);
  const within = far > FOCUS_WITHIN ? FOCUS_WITHIN / far : 1;
  const from = { x: dx * within, y: dy * within, radius: Math.min(0.999, Math.max(0, number('fr', '0') / radius)) };
  return { map: { a: radius, b: 0, c: 0, d: radius, e: x, f: y }, from };
}

/** A gradient that repeats beyond its ends, as one long enough for a box; undefined where it repeats too often. */
function spreadOver(gradient: Gradient, method: string | undefined, box: Box): Gradient | undefined {
  if (method !== 'reflect' && method !== 'repeat') return gradient;
  const { map, from, stops } = gradient;
  const reach = mappedBox(inverse(map), box);
  const corners = [reach.xmin, reach.xmax].flatMap((x) => [reach.ymin, reach.ymax].map((y) => Math.hypot(x, y)));
  // A focus that is not in the middle makes circles grow more slowly on one side.
  const focus = from ? Math.hypot(from.x, from.y) : 0;
  const grown = from ? (Math.max(...corners) + focus) / (1 - focus) : reach.xmax;
  const [first, end] = [from ? 0 : Math.floor(reach.xmin), Math.ceil(grown)];
  const count = Math.max(1, end - first);
  if (!(count <= MAX_REPEATS)) return undefined;
  if (first === 0 && count === 1) return gradient;
  const repeated: GradientStop[] = [];
  for (let i = first; i < end; i++) {
    const turned = method === 'reflect' && i % 2 !== 0;
    const own = turned ? [...stops].reverse().map((stop) => ({ ...stop, at: 1 - stop.at })) : stops;
    // Each begins and ends with its outer colours, so that none runs into the next.
    const ends = [{ ...own[0]!, at: 0 }, ...own, { ...own.at(-1)!, at: 1 }];
    repeated.push(...ends.map((stop) => ({ ...stop, at: (i - first + stop.at) / count })));
  }
  if (!from) return { map: multiply(map, { a: count, b: 0, c: 0, d: count, e: first, f: 0 }), stops: repeated };
  return { ...grownCircles(map, from, count), stops: repeated };
}

/** The circles of a radial gradient carried on to `count` times the distance of the first two. */
function grownCircles(map: Affine, from: NonNullable<Gradient['from']>, count: number): Laid {
  const radius = from.radius + (1 - from.radius) * count;
  const [x, y] = [from.x * (1 - count), from.y * (1 - count)];
  const [e, f] = apply(map, x, y);
  return {
    map: { a: map.a * radius, b: map.b * radius, c: map.c * radius, d: map.d * radius, e, f },
    from: { x: (from.x - x) / radius, y: (from.y - y) / radius, radius: from.radius / radius },
  };
}
