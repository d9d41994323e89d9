import { multiply, IDENTITY, rotation, scaling, translation, type Affine } from '../../geometry/affine';
import { numbersIn } from './numbers';

const RADIANS = Math.PI / 180;

/** The map of a `transform` attribute (CSS Transforms 1; SVG 1.1, 7.6); the identity where it cannot be read. */
export function transformOf(text: string | undefined): Affine {
  let map = IDENTITY;
  for (const [, name, list] of (text ?? '').matchAll(/([a-zA-Z]+)\s*\(([^)]*)\)/g)) {
    map = multiply(map, step(name!, numbersIn(list!)));
  }
  return map;
}

function step(name: string, n: number[]): Affine {
  switch (name) {
    case 'matrix':
      return n.length < 6 ? IDENTITY : { a: n[0]!, b: n[1]!, c: n[2]!, d: n[3]!, e: n[4]!, f: n[5]! };
    case 'translate':
      return translation(n[0] ?? 0, n[1] ?? 0);
    case 'scale':
      return scaling(n[0] ?? 1, n[1] ?? n[0] ?? 1);
    case 'rotate': {
      const [x, y] = [n[1] ?? 0, n[2] ?? 0];
      return multiply(multiply(translation(x, y), rotation((n[0] ?? 0) * RADIANS)), translation(-x, -y));
    }
    case 'skewX':
      return { a: 1, b: 0, c: Math.tan((n[0] ?? 0) * RADIANS), d: 1, e: 0, f: 0 };
    case 'skewY':
      return { a: 1, b: Math.tan((n[0] ?? 0) * RADIANS), c: 0, d: 1, e: 0, f: 0 };
    default:
      return IDENTITY;
  }
}

/** The map of a `viewBox` into a box of `width` × `height` at the origin (SVG 1.1, 7.8). */
export function viewBoxMap(
  viewBox: string | undefined,
  preserve: string | undefined,
  width: number,
  height: number,
): Affine {
  const [x = 0, y = 0, w = 0, h = 0] = numbersIn(viewBox ?? '');
  if (!(w > 0 && h > 0)) return IDENTITY;
  let [sx, sy] = [width / w, height / h];
  if (preserve?.trim().startsWith('none')) return multiply(scaling(sx, sy), translation(-x, -y));
  sx = sy = preserve?.includes('slice') ? Math.max(sx, sy) : Math.min(sx, sy);
  const align = /x(Min|Mid|Max)Y(Min|Mid|Max)/.exec(preserve ?? '');
  const share = (word: string | undefined): number => (word === 'Min' ? 0 : word === 'Max' ? 1 : 0.5);
  const dx = (width - w * sx) * share(align?.[1]);
  const dy = (height - h * sy) * share(align?.[2]);
  return multiply(translation(dx, dy), multiply(scaling(sx), translation(-x, -y)));
}
