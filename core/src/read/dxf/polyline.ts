import { POLYLINE_STRIDE, type Entity, type PathEntity, type PolylineEntity } from '../../drawing/model';
import type { Warnings } from '../warnings';
import { CONTINUOUS_DASHES, styleOf } from './entities';
import { facesPath, gridPath, type MeshVertex } from './faces';
import { isFlat, isMirrored, PLAN, projectPlaneOf } from './projection';
import type { NameTables } from './names';
import type { Record } from './record';

/** A POLYLINE in space is in world coordinates. */
export const IN_SPACE = 8;
const GRID_MESH = 16;
const FACE_MESH = 64;

/** A POLYLINE whose vertices are still to come. */
export interface OpenPolyline {
  entity: PolylineEntity | PathEntity;
  /** The same as it lies in the drawing: in a plane that is tilted in space where it states one. */
  placed: Entity;
  mesh: { flags: number; rows: number; columns: number; vertices: MeshVertex[] } | undefined;
  /** -1 where its own x axis runs the other way. */
  mirror: 1 | -1;
  values: number[];
}

/** Begins a POLYLINE; its vertices follow as records of their own. */
export function openPolyline(record: Record, names: NameTables): OpenPolyline {
  const flags = record.integer(70);
  const common = { style: styleOf(record, names), handle: record.text(5) };
  if (flags & (GRID_MESH | FACE_MESH)) {
    const entity: PathEntity = { kind: 'path', ...common, verbs: new Uint8Array(0), coords: new Float64Array(0) };
    // A smoothed mesh says the numbers of its smoothed vertices apart.
    const smooth = record.integer(75) !== 0;
    const [rows, columns] = smooth
      ? [record.integer(73), record.integer(74)]
      : [record.integer(71), record.integer(72)];
    return { entity, placed: entity, mesh: { flags, rows, columns, vertices: [] }, mirror: 1, values: [] };
  }
  const entity: PolylineEntity = {
    kind: 'polyline',
    ...common,
    vertices: new Float64Array(0),
    closed: (flags & 1) === 1,
    ...(flags & CONTINUOUS_DASHES && { dashesRunOn: true }),
  };
  const inPlane = !(flags & IN_SPACE);
  const map = inPlane && !isFlat(record) ? projectPlaneOf(record, PLAN) : undefined;
  const placed: Entity = map ? { kind: 'tilted', ...common, map, entity } : entity;
  return { entity, placed, mesh: undefined, mirror: inPlane && isMirrored(record) ? -1 : 1, values: [] };
}

/** Adds a VERTEX; one that states nothing usable is left out with a warning. */
export function addVertex(polyline: OpenPolyline, record: Record, warnings: Warnings): void {
  const SPLINE_FRAME = 16;
  const { values, mesh, mirror } = polyline;
  if (mesh) {
    const face = [71, 72, 73, 74].map((code) => record.integer(code)) as [number, number, number, number];
    mesh.vertices.push({ x: record.number(10), y: record.number(20), flags: record.integer(70), face });
  } else if (!(record.integer(70) & SPLINE_FRAME)) {
    const [x, bulge] = [mirror * record.number(10), mirror * record.number(42)];
    values.push(x, record.number(20), bulge, record.number(40), record.number(41));
  }
  if (!record.bad) return;
  if (mesh) mesh.vertices.pop();
  else values.length -= POLYLINE_STRIDE;
  const sentence = 'A POLYLINE vertex is not a usable number and was left out; redraw it in its program.';
  warnings.add('dxf.bad-number', sentence, { handle: record.text(5), line: record.line });
}

/** Ends a POLYLINE: what was gathered becomes its shape. */
export function finishPolyline({ entity, mesh, values }: OpenPolyline): void {
  if (entity.kind === 'polyline') {
    entity.vertices = Float64Array.from(values);
    return;
  }
  if (!mesh) return;
  const path =
    mesh.flags & FACE_MESH ? facesPath(mesh.vertices) : gridPath(mesh.vertices, mesh.flags, mesh.rows, mesh.columns);
  entity.verbs = path.verbs.slice(0, path.verbCount);
  entity.coords = path.coords.slice(0, path.coordCount);
}
