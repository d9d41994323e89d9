import { CLOSE, CURVE, LINE, MOVE, type Path } from './path';

const PIECES = 64;

/** A line of straight pieces. */
export interface FlatLine {
  /** x, y pairs; a closed line ends where it began. */
  points: number[];
  /** True where the path says so, not where its ends only meet. */
  closed: boolean;
}

/** The lines of a path as x, y pairs, curves in 64 straight pieces each; closed ones end where they began. */
export function flattened(path: Path): number[][] {
  return flatLines(path).map(({ points }) => points);
}

/** The lines of a path, curves in 64 straight pieces each. */
export function flatLines(path: Path): FlatLine[] {
  const lines: FlatLine[] = [];
  let line: number[] = [];
  let at = 0;
  for (let v = 0; v < path.verbCount; v++) {
    const c = path.coords.subarray(at, at + 6);
    switch (path.verbs[v]) {
      case MOVE:
        lines.push({ points: (line = [c[0]!, c[1]!]), closed: false });
        at += 2;
        break;
      case LINE:
        line.push(c[0]!, c[1]!);
        at += 2;
        break;
      case CURVE:
        pushCurve(line, c);
        at += 6;
        break;
      case CLOSE:
        line.push(line[0]!, line[1]!);
        lines.at(-1)!.closed = true;
    }
  }
  return lines;
}

function pushCurve(line: number[], c: Float64Array): void {
  const [x0, y0] = [line.at(-2)!, line.at(-1)!];
  for (let i = 1; i <= PIECES; i++) {
    const t = i / PIECES;
    const s = 1 - t;
    const [w0, w1, w2, w3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    line.push(w0 * x0 + w1 * c[0]! + w2 * c[2]! + w3 * c[4]!, w0 * y0 + w1 * c[1]! + w2 * c[3]! + w3 * c[5]!);
  }
}
