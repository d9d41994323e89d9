// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- all who compile this file need the types, not only this package
/// <reference path="../clipper-lib.d.ts" />
import ClipperLib from 'clipper-lib';
import { flattened } from './flatten';
import type { Path } from './path';

/** Steps to a unit: the library counts in whole ones, which is why it gives up nowhere. */
const STEPS = 1000;
const { pftEvenOdd, pftNonZero } = ClipperLib.PolyFillType;

/** Writes into `out` what a filled path covers inside loops of x, y pairs, both by the even-odd rule. */
export function clipFillToLoops(path: Path, loops: readonly (readonly number[])[], out: Path): void {
  const clipper = new ClipperLib.Clipper();
  clipper.AddPaths(flattened(path).map(pointsOf), ClipperLib.PolyType.ptSubject, true);
  clipper.AddPaths(loops.map(pointsOf), ClipperLib.PolyType.ptClip, true);
  const rings: ClipperLib.IntPoint[][] = [];
  clipper.Execute(ClipperLib.ClipType.ctIntersection, rings, pftEvenOdd, pftEvenOdd);
  addRings(rings, out);
}

/** Writes into `out` what a filled path covers by the nonzero rule, as loops that cover it by the even-odd rule too. */
export function asEvenOdd(path: Path, out: Path): void {
  addRings(ClipperLib.Clipper.SimplifyPolygons(flattened(path).map(pointsOf), pftNonZero), out);
}

/** What a filled path covers by the even-odd rule, as rings that do not cross; those around holes run clockwise. */
export function evenOddRings(path: Path): number[][] {
  const rings = ClipperLib.Clipper.SimplifyPolygons(flattened(path).map(pointsOf), pftEvenOdd);
  return rings.map((ring) => ring.flatMap(({ X, Y }) => [X / STEPS, Y / STEPS]));
}

function addRings(rings: readonly ClipperLib.IntPoint[][], out: Path): void {
  for (const ring of rings) {
    ring.forEach(({ X, Y }, i) => (i === 0 ? out.moveTo(X / STEPS, Y / STEPS) : out.lineTo(X / STEPS, Y / STEPS)));
    out.close();
  }
}

function pointsOf(loop: readonly number[]): ClipperLib.IntPoint[] {
  const step = (value: number): number => Math.round(value * STEPS);
  return Array.from({ length: loop.length >> 1 }, (_, i) => ({ X: step(loop[2 * i]!), Y: step(loop[2 * i + 1]!) }));
}
