import { LOOP_STRIDE, type FillEntity, type ShapeEntity } from '../drawing/model';

type Point = readonly [x: number, y: number];

/**
 * The point that stays where it is when lettering is sized for the paper: of a text its anchor, of an arrowhead of a
 * dimension or leader its tip. Undefined for what has the size that the scale gives it; a text set between two points is
 * among that.
 */
export function paperAnchor(entity: ShapeEntity, inDimension: boolean): Point | undefined {
  if (entity.kind === 'text') {
    return entity.horizontal === 'fit' || entity.horizontal === 'aligned' ? undefined : [entity.x, entity.y];
  }
  if (entity.kind === 'fill' && (inDimension || entity.arrow)) return tipOf(entity);
  return undefined;
}

/** The corner of a triangle opposite its shortest side; undefined for other shapes. */
function tipOf({ loops }: FillEntity): Point | undefined {
  const [loop] = loops;
  if (!loop || loops.length > 1) return undefined;
  const corners: Point[] = [];
  for (let i = 0; i < loop.length; i += LOOP_STRIDE) {
    const corner: Point = [loop[i]!, loop[i + 1]!];
    if (!corners.some(([x, y]) => x === corner[0] && y === corner[1])) corners.push(corner);
  }
  if (corners.length !== 3) return undefined;
  const opposite = (i: number): number => {
    const [[x0, y0], [x1, y1]] = [corners[(i + 1) % 3]!, corners[(i + 2) % 3]!];
    return Math.hypot(x1 - x0, y1 - y0);
  };
  return [0, 1, 2].sort((a, b) => opposite(a) - opposite(b)).map((i) => corners[i]!)[0];
}
