import { inverse, multiply, type Affine } from '../geometry/affine';

/** A colour of a gradient. */
export interface GradientStop {
  /** Where along the gradient, 0…1; never before the one before it. */
  at: number;
  /** 0xRRGGBB. */
  colour: number;
  /** 0…1. */
  opacity: number;
}

/**
 * Colours that change from place to place, laid out in a plane of their own that `map` takes to where they are used. They
 * run along its x axis from 0 to 1 or, with `from`, from that circle to the unit circle about the origin (ISO 32000-2,
 * 8.7.4.5.3 and 8.7.4.5.4). Beyond both ends the outer colours go on.
 */
export interface Gradient {
  map: Affine;
  from?: { x: number; y: number; radius: number };
  stops: readonly GradientStop[];
}

/** A gradient seen through a further map. */
export function mappedGradient(gradient: Gradient, outer: Affine): Gradient {
  return { ...gradient, map: multiply(outer, gradient.map) };
}

/** A gradient with each of its colours changed. */
export function recolouredGradient(gradient: Gradient, ink: (colour: number) => number): Gradient {
  return { ...gradient, stops: gradient.stops.map((stop) => ({ ...stop, colour: ink(stop.colour) })) };
}

/** A gradient with the opacity of each of its colours multiplied. */
export function fadedGradient(gradient: Gradient, opacity: number): Gradient {
  return { ...gradient, stops: gradient.stops.map((stop) => ({ ...stop, opacity: stop.opacity * opacity })) };
}

/** True where something shows through a gradient. */
export function isSeeThrough({ stops }: Gradient): boolean {
  return stops.some(({ opacity }) => opacity < 1);
}

/**
 * The points where a linear gradient begins and ends. Its colours are constant across the line through them, although
 * `map` may slant the plane of the gradient.
 */
export function axisOf(map: Affine): [x0: number, y0: number, x1: number, y1: number] {
  const { a, c, e } = inverse(map);
  const square = a * a + c * c;
  const [x0, y0] = [(-e * a) / square, (-e * c) / square];
  return [x0, y0, x0 + a / square, y0 + c / square];
}

/** The mean of the colours along a gradient, for formats without gradients. */
export function meanColour({ stops }: Pick<Gradient, 'stops'>): number {
  const mean = (shift: number): number =>
    Math.round(alongStops(stops, ({ colour }) => (colour >> shift) & 0xff)) << shift;
  return mean(16) | mean(8) | mean(0);
}

/** The mean of the opacities along a gradient, 0…1. */
export function meanOpacity({ stops }: Gradient): number {
  return alongStops(stops, ({ opacity }) => opacity);
}

/** The mean of a value along a gradient, each stretch between two stops by its length. */
function alongStops(stops: readonly GradientStop[], value: (stop: GradientStop) => number): number {
  let sum = 0;
  let [at, last] = [0, value(stops[0]!)];
  for (const stop of stops) {
    sum += ((stop.at - at) * (last + value(stop))) / 2;
    [at, last] = [stop.at, value(stop)];
  }
  return sum + (1 - at) * last;
}
