/** The calls of the clipping library that are used; it ships no types of its own. */
declare module 'clipper-lib' {
  namespace ClipperLib {
    interface IntPoint {
      X: number;
      Y: number;
    }
    const PolyType: { ptSubject: number; ptClip: number };
    const ClipType: { ctIntersection: number };
    const PolyFillType: { pftEvenOdd: number; pftNonZero: number };
    class Clipper {
      static SimplifyPolygons(polygons: IntPoint[][], fillType: number): IntPoint[][];
      AddPaths(paths: IntPoint[][], type: number, closed: boolean): boolean;
      Execute(type: number, solution: IntPoint[][], subjects: number, clips: number): boolean;
    }
  }
  export default ClipperLib;
}
