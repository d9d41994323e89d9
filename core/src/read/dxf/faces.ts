import type { PathEntity, Style } from '../../drawing/model';
import { Path } from '../../geometry/path';
import { pathEntity } from './curves';
import type { Record } from './record';

/** 3DFACE as its visible edges seen from above; group 70 hides edges bit by bit. */
export function readFace(record: Record, style: Style, handle: string): PathEntity {
  const corner = (n: number): [number, number] => [record.number(10 + n), record.number(20 + n)];
  const corners = [corner(0), corner(1), corner(2), record.has(13) ? corner(3) : corner(2)];
  const hidden = record.integer(70);
  const path = new Path();
  corners.forEach((from, i) => {
    const to = corners[(i + 1) % 4]!;
    if (hidden & (1 << i) || (from[0] === to[0] && from[1] === to[1])) return;
    path.moveTo(...from);
    path.lineTo(...to);
  });
  return pathEntity(path, style, handle);
}

/** One vertex of a mesh, as its VERTEX record says it. */
export interface MeshVertex {
  x: number;
  y: number;
  flags: number;
  /** Vertex numbers of a face, counted from 1; negative where the edge after it is hidden. */
  face: [number, number, number, number];
}

const FACE_RECORD = 128;
const POSITION = 64;
const CLOSED_ACROSS = 1;
const CLOSED_ALONG = 32;
const FIT_VERTEX = 8;
const FRAME_VERTEX = 16;

/** A POLYLINE that is a mesh of rows and columns, as its grid lines. */
export function gridPath(vertices: readonly MeshVertex[], flags: number, rows: number, columns: number): Path {
  // A smoothed mesh holds its frame too, which is not drawn.
  const smooth = vertices.some((vertex) => vertex.flags & FIT_VERTEX);
  const shown = smooth ? vertices.filter((vertex) => !(vertex.flags & FRAME_VERTEX)) : vertices;
  const path = new Path();
  const line = (count: number, closed: boolean, at: (i: number) => MeshVertex | undefined): void => {
    for (let i = 0; i < count + (closed ? 1 : 0); i++) {
      const vertex = at(i % count);
      if (!vertex) return;
      if (i === 0) path.moveTo(vertex.x, vertex.y);
      else path.lineTo(vertex.x, vertex.y);
    }
  };
  for (let row = 0; row < rows; row++) line(columns, (flags & CLOSED_ALONG) !== 0, (i) => shown[row * columns + i]);
  for (let column = 0; column < columns; column++) {
    line(rows, (flags & CLOSED_ACROSS) !== 0, (i) => shown[i * columns + column]);
  }
  return path;
}

/** A POLYLINE that lists vertices and then faces by their numbers, as the visible edges. */
export function facesPath(vertices: readonly MeshVertex[]): Path {
  const positions = vertices.filter((vertex) => vertex.flags & POSITION);
  const path = new Path();
  for (const { flags, face } of vertices) {
    if (!(flags & FACE_RECORD) || flags & POSITION) continue;
    const corners = face.filter((number) => number !== 0);
    corners.forEach((number, i) => {
      const from = positions[Math.abs(number) - 1];
      const to = positions[Math.abs(corners[(i + 1) % corners.length]!) - 1];
      if (number < 0 || !from || !to) return;
      path.moveTo(from.x, from.y);
      path.lineTo(to.x, to.y);
    });
  }
  return path;
}
