import type { PathSink } from './curves';

/** A B-spline: control points as x, y pairs; knots; weights of the same number as points, or none. */
export interface Spline {
  degree: number;
  knots: readonly number[];
  points: readonly number[];
  weights: readonly number[];
}

/** Cubic pieces of one knot span where the curve is rational or of a degree that a cubic cannot hold. */
const PIECES_PER_SPAN = 32;
const HIGHEST_DEGREE = 15;

/**
 * Draws a B-spline as cubic Béziers: exactly up to degree three, otherwise through points of the curve with its
 * tangents, thirty-two to a span. Valid on knots[degree]…knots[n] (an unclamped spline reaches no farther). False when the
 * numbers do not make a spline; then nothing is drawn.
 */
export function splinePath(sink: PathSink, spline: Spline): boolean {
  const { degree, knots, points, weights } = spline;
  const count = points.length / 2;
  if (degree < 1 || degree > HIGHEST_DEGREE || count <= degree || knots.length !== count + degree + 1) return false;
  if (weights.length !== 0 && (weights.length !== count || weights.some((weight) => !(weight > 0)))) return false;
  const exact = degree <= 3 && weights.every((weight) => weight === weights[0]);
  const spans = spansOf(spline);
  if (spans.length === 0) return false;
  sink.moveTo(...pointAt(spline, spans[0]!, knots[spans[0]!]!).at);
  for (const span of spans) {
    if (exact) exactSpan(sink, spline, span);
    else sampledSpan(sink, spline, span);
  }
  return true;
}

/** Indices i of the knot spans [knots[i], knots[i + 1]] that are not empty. */
function spansOf({ degree, knots, points }: Spline): number[] {
  const spans: number[] = [];
  for (let i = degree; i < points.length / 2; i++) if (knots[i + 1]! > knots[i]!) spans.push(i);
  return spans;
}

/** One span as the Bézier of its degree (its points are blossoms at the span's ends), raised to a cubic. */
function exactSpan(sink: PathSink, spline: Spline, span: number): void {
  const { degree, knots } = spline;
  const [a, b] = [knots[span]!, knots[span + 1]!];
  const corner = (ends: number): [number, number] => {
    const parameters = Array.from({ length: degree }, (_, i) => (i < degree - ends ? a : b));
    return blossom(spline, span, parameters);
  };
  if (degree === 1) return sink.lineTo(...corner(1));
  if (degree === 2) {
    const [p0, p1, p2] = [corner(0), corner(1), corner(2)];
    const third = (p: [number, number], q: [number, number], axis: 0 | 1): number => (p[axis] + 2 * q[axis]) / 3;
    return sink.curveTo(third(p0, p1, 0), third(p0, p1, 1), third(p2, p1, 0), third(p2, p1, 1), ...p2);
  }
  sink.curveTo(...corner(1), ...corner(2), ...corner(3));
}

function sampledSpan(sink: PathSink, spline: Spline, span: number): void {
  const [a, b] = [spline.knots[span]!, spline.knots[span + 1]!];
  const step = (b - a) / PIECES_PER_SPAN;
  let from = pointAt(spline, span, a);
  for (let i = 1; i <= PIECES_PER_SPAN; i++) {
    const to = pointAt(spline, span, i === PIECES_PER_SPAN ? b : a + i * step);
    const handle = (p: typeof to, sign: 1 | -1): [number, number] => [
      p.at[0] + (sign * step * p.slope[0]) / 3,
      p.at[1] + (sign * step * p.slope[1]) / 3,
    ];
    sink.curveTo(...handle(from, 1), ...handle(to, -1), ...to.at);
    from = to;
  }
}

/** The polar form of a span, not rational: de Boor's scheme with a parameter of its own at each level. */
function blossom({ degree, knots, points }: Spline, span: number, parameters: readonly number[]): [number, number] {
  const first = span - degree;
  const x = Array.from({ length: degree + 1 }, (_, i) => points[2 * (first + i)]!);
  const y = Array.from({ length: degree + 1 }, (_, i) => points[2 * (first + i) + 1]!);
  for (let level = 1; level <= degree; level++) {
    for (let i = degree; i >= level; i--) {
      const [low, high] = [knots[first + i]!, knots[first + i + degree + 1 - level]!];
      const t = (parameters[level - 1]! - low) / (high - low);
      x[i] = x[i - 1]! * (1 - t) + x[i]! * t;
      y[i] = y[i - 1]! * (1 - t) + y[i]! * t;
    }
  }
  return [x[degree]!, y[degree]!];
}

/** Point and derivative at a parameter, rational or not (de Boor in homogeneous coordinates). */
function pointAt(
  { degree, knots, points, weights }: Spline,
  span: number,
  t: number,
): { at: [number, number]; slope: [number, number] } {
  const first = span - degree;
  const column = (of: (i: number) => number): number[] => Array.from({ length: degree + 1 }, (_, i) => of(first + i));
  const weight = (i: number): number => weights[i] ?? 1;
  const columns = [
    column((i) => points[2 * i]! * weight(i)),
    column((i) => points[2 * i + 1]! * weight(i)),
    column(weight),
  ];
  const slopes = [0, 0, 0];
  for (let level = 1; level <= degree; level++) {
    if (level === degree) {
      const width = knots[span + 1]! - knots[span]!;
      columns.forEach((values, k) => (slopes[k] = (degree * (values[degree]! - values[degree - 1]!)) / width));
    }
    for (let i = degree; i >= level; i--) {
      const [low, high] = [knots[first + i]!, knots[first + i + degree + 1 - level]!];
      const share = (t - low) / (high - low);
      for (const values of columns) values[i] = values[i - 1]! * (1 - share) + values[i]! * share;
    }
  }
  const [x, y, w] = columns.map((values) => values[degree]!) as [number, number, number];
  const [dx, dy, dw] = slopes as [number, number, number];
  return { at: [x / w, y / w], slope: [(dx - (x / w) * dw) / w, (dy - (y / w) * dw) / w] };
}

/**
 * Draws the curve of twice continuous slope through points (x, y pairs), with its parameter along the chords and no
 * bend at its ends: the spline that is given only by the points it goes through.
 */
export function throughPoints(sink: PathSink, points: readonly number[]): boolean {
  const kept = withoutRepeats(points);
  const count = kept.length / 2;
  if (count < 2) return false;
  const steps = Array.from({ length: count - 1 }, (_, i) =>
    Math.hypot(kept[2 * i + 2]! - kept[2 * i]!, kept[2 * i + 3]! - kept[2 * i + 1]!),
  );
  const slopes = [0, 1].map((axis) =>
    naturalSlopes(
      Array.from({ length: count }, (_, i) => kept[2 * i + axis]!),
      steps,
    ),
  );
  sink.moveTo(kept[0]!, kept[1]!);
  for (let i = 0; i + 1 < count; i++) {
    const third = steps[i]! / 3;
    sink.curveTo(
      kept[2 * i]! + third * slopes[0]![i]!,
      kept[2 * i + 1]! + third * slopes[1]![i]!,
      kept[2 * i + 2]! - third * slopes[0]![i + 1]!,
      kept[2 * i + 3]! - third * slopes[1]![i + 1]!,
      kept[2 * i + 2]!,
      kept[2 * i + 3]!,
    );
  }
  return true;
}

/** Slopes of a natural cubic spline at its points (tridiagonal system, solved from both ends). */
function naturalSlopes(values: readonly number[], steps: readonly number[]): number[] {
  const n = values.length;
  const rise = (i: number): number => (values[i + 1]! - values[i]!) / steps[i]!;
  const [diagonal, right] = [new Array<number>(n).fill(0), new Array<number>(n).fill(0)];
  const upper = new Array<number>(n).fill(0);
  for (let i = 0; i < n; i++) {
    const before = i === 0 ? 0 : 1 / steps[i - 1]!;
    const after = i === n - 1 ? 0 : 1 / steps[i]!;
    diagonal[i] = 2 * (before + after);
    upper[i] = after;
    right[i] = 3 * ((i === 0 ? 0 : rise(i - 1) * before) + (i === n - 1 ? 0 : rise(i) * after));
    if (i > 0) {
      const factor = before / diagonal[i - 1]!;
      diagonal[i] = diagonal[i]! - factor * upper[i - 1]!;
      right[i] = right[i]! - factor * right[i - 1]!;
    }
  }
  const slopes = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i--) slopes[i] = (right[i]! - upper[i]! * (slopes[i + 1] ?? 0)) / diagonal[i]!;
  return slopes;
}

function withoutRepeats(points: readonly number[]): number[] {
  const kept: number[] = [];
  for (let i = 0; i + 1 < points.length; i += 2) {
    if (kept.length && kept.at(-2) === points[i] && kept.at(-1) === points[i + 1]) continue;
    kept.push(points[i]!, points[i + 1]!);
  }
  return kept;
}
