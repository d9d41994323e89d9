// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- all who compile this file need the types, not only this package
/// <reference path="../clipper-lib.d.ts" />
import ClipperLib from 'clipper-lib';
import { flattened } from './flatten';
import type { LineShape } from './line-shape';
import { Path } from './path';

const { JoinType, EndType } = ClipperLib;
const JOINS = { miter: JoinType.jtMiter, round: JoinType.jtRound, bevel: JoinType.jtSquare };
const CAPS = { butt: EndType.etOpenButt, round: EndType.etOpenRound, square: EndType.etOpenSquare };
/** Steps to the width of the line: the library counts in whole ones. */
const STEPS_PER_WIDTH = 4000;
/** How far round corners may be from round, in steps. */
const ARC_TOLERANCE = 4;
/** More dashes than this are not drawn one by one. */
const MAX_DASHES = 50_000;

/**
 * The area that a stroke covers, to be filled by the nonzero rule: what an even pen draws, for lines that are seen through
 * a map that makes the pen uneven. Where the mitre of a corner would be too long it is squared off.
 */
export function strokeOutline(path: Path, width: number, shape: LineShape, dashes: readonly number[] = []): Path {
  const outline = new Path();
  if (!(width > 0)) return outline;
  const scale = STEPS_PER_WIDTH / width;
  const offset = new ClipperLib.ClipperOffset(shape.miterLimit, ARC_TOLERANCE);
  for (const line of flattened(path)) {
    const closed = line.length > 4 && line[0] === line.at(-2) && line[1] === line.at(-1);
    const pieces = dashes.length > 0 ? dashed(line, dashes) : [line];
    const end = closed && pieces.length === 1 && pieces[0] === line ? EndType.etClosedLine : CAPS[shape.cap];
    for (const piece of pieces) {
      const points = [];
      for (let i = 0; i + 1 < piece.length; i += 2) {
        points.push({ X: Math.round(piece[i]! * scale), Y: Math.round(piece[i + 1]! * scale) });
      }
      offset.AddPath(points, JOINS[shape.join], end);
    }
  }
  const rings: ClipperLib.IntPoint[][] = [];
  offset.Execute(rings, STEPS_PER_WIDTH / 2);
  for (const ring of rings) {
    ring.forEach(({ X, Y }, i) =>
      i === 0 ? outline.moveTo(X / scale, Y / scale) : outline.lineTo(X / scale, Y / scale),
    );
    outline.close();
  }
  return outline;
}

/** The dashes of a line of x, y pairs, dashes and gaps given in turn; the line itself where they would be too many. */
function dashed(line: readonly number[], dashes: readonly number[]): (readonly number[])[] {
  const pattern = dashes.length % 2 ? [...dashes, ...dashes] : dashes;
  const total = pattern.reduce((sum, dash) => sum + dash, 0);
  let length = 0;
  for (let i = 2; i + 1 < line.length; i += 2)
    length += Math.hypot(line[i]! - line[i - 2]!, line[i + 1]! - line[i - 1]!);
  if (!(total > 0) || (length / total) * pattern.length > MAX_DASHES) return [line];
  const pieces: number[][] = [];
  let [at, left] = [0, pattern[0]!];
  let piece: number[] | undefined = [line[0]!, line[1]!];
  for (let i = 2; i + 1 < line.length; i += 2) {
    let [x, y] = [line[i - 2]!, line[i - 1]!];
    let rest = Math.hypot(line[i]! - x, line[i + 1]! - y);
    while (rest > left) {
      const share = left / rest;
      [x, y, rest] = [x + (line[i]! - x) * share, y + (line[i + 1]! - y) * share, rest - left];
      if (piece) pieces.push([...piece, x, y]);
      at = (at + 1) % pattern.length;
      left = pattern[at]!;
      piece = at % 2 ? undefined : [x, y];
    }
    left -= rest;
    piece?.push(line[i]!, line[i + 1]!);
  }
  if (piece && piece.length > 2) pieces.push(piece);
  return pieces;
}
