import { cross, plus, scaled, type Vector } from '../../geometry/vector';
import { PLAIN_INSERT, type Block, type EllipseEntity, type Entity, type InsertEntity } from '../../drawing/model';
import type { Warnings } from '../warnings';
import type { EntityContext } from './context';
import { inPlane, isConstant, isInvisible, readEntity, styleOf } from './entities';
import type { GroupReader, Mark } from './groups';
import { addVertex, finishPolyline, IN_SPACE, openPolyline, type OpenPolyline } from './polyline';
import type { Record } from './record';
import {
  axesOfInsert,
  GROUND,
  isEdgeOn,
  projectionThrough,
  projectPlaneOf,
  projectPoint,
  statedPlane,
  turnPoints,
  type Projection,
} from './projection';

/** Entities that are given by points and vectors in space, which are projected one by one. */
const POINTWISE = new Set(['LINE', 'POINT', '3DFACE', 'SPLINE', 'HELIX', 'RAY', 'XLINE']);
/** Entities that are given by three vectors in space; what has higher codes lies in the plane of the picture. */
const PICTURES = new Set(['IMAGE', 'WIPEOUT']);
const LAST_VECTOR = 12;
/** A block is read anew for each orientation of its references: the most such readings, and the most references of one array. */
const [MOST_BLOCKS, MOST_CELLS] = [5000, 10_000];

/** A block as projected through a reference to it, still to be read. */
interface ProjectedBlock {
  name: string;
  projection: Projection;
  block: Block;
}

type Point = readonly [x: number, y: number];

/** A projected block, and where its base point is seen. */
interface PlacedBlock {
  key: string;
  base: Point;
}

/** What the reader of a file knows when it comes to its views from other sides. */
export interface ProjectionSource {
  groups: GroupReader;
  record: Record;
  context: EntityContext;
  /** Where the entities of the file begin. */
  model: readonly Mark[];
  /** Where the content of each block begins, by its name in lower case. */
  marks: ReadonlyMap<string, Mark>;
  /** The blocks of the file by their names in lower case, to which their projections are added. */
  blocks: Map<string, Block>;
  warnings: Warnings;
}

/** The model of a file, read once more for each projection: all edges, hidden ones too. */
export function projectModel(projections: readonly Projection[], source: ProjectionSource): Entity[][] {
  return projections.map((projection) => new Projector(source).model(projection));
}

class Projector {
  private readonly projected = new Map<string, PlacedBlock>();
  private readonly waiting: ProjectedBlock[] = [];

  constructor(private readonly source: ProjectionSource) {}

  model(projection: Projection): Entity[] {
    const entities: Entity[] = [];
    for (const mark of this.source.model) this.entities(mark, 'ENDSEC', projection, entities);
    for (let next = this.waiting.shift(); next; next = this.waiting.shift()) {
      const mark = this.source.marks.get(next.name);
      if (mark) this.entities(mark, 'ENDBLK', next.projection, next.block.entities);
    }
    return entities;
  }

  /** Reads entities up to a word, as they are seen. */
  private entities(from: Mark, until: string, projection: Projection, into: Entity[]): void {
    const { groups, record, context, warnings } = this.source;
    let polyline: (OpenPolyline & { inSpace: boolean }) | undefined;
    const finish = (): void => {
      if (polyline) finishPolyline(polyline);
      polyline = undefined;
    };
    groups.goTo(from);
    while (groups.next()) {
      if (groups.code !== 0) continue;
      const word = groups.keyword();
      if (word === until || word === 'EOF' || word === 'ENDSEC') break;
      record.read();
      if (record.type === 'VERTEX') {
        if (polyline?.inSpace) turnPoints(record, projection);
        if (polyline) addVertex(polyline, record, warnings);
        continue;
      }
      finish();
      // It lies on a layout.
      if (record.integer(67) === 1) continue;
      if (record.type === 'POLYLINE') {
        const open = openPolyline(record, context.names);
        const inSpace = open.mesh !== undefined || (record.integer(70) & IN_SPACE) !== 0;
        polyline = { ...open, inSpace };
        into.push(inSpace ? open.entity : inPlane(open.entity, projectPlaneOf(record, projection)));
      } else if (record.type === 'INSERT') this.insert(projection, into);
      else if (this.isShown()) {
        for (const entity of this.entity(projection)) into.push(entity);
      }
    }
    finish();
  }

  private isShown(): boolean {
    const { record } = this.source;
    if (record.type === 'ATTRIB') return !isInvisible(record);
    return record.type !== 'VIEWPORT' && (record.type !== 'ATTDEF' || isConstant(record));
  }

  private entity(projection: Projection): Entity[] {
    const { record } = this.source;
    const context: EntityContext = { ...this.source.context, projection };
    if (POINTWISE.has(record.type)) {
      turnPoints(record, projection);
      return readEntity(record, context);
    }
    if (PICTURES.has(record.type)) {
      turnPoints(record, projection, LAST_VECTOR);
      return readEntity(record, context);
    }
    if (record.type === 'ELLIPSE') return ellipse(record, projection, context);
    return readEntity(record, context, (_, shapes) => {
      const map = projectPlaneOf(record, projection);
      return shapes.flatMap((shape) => {
        if (shape.kind === 'viewport') return [];
        if (shape.kind === 'insert' && this.source.marks.has(shape.block)) return this.drawnBlock(shape, projection);
        return isEdgeOn(shape, map) ? [] : [inPlane(shape, map)];
      });
    });
  }

  /** A dimension or table, by the block that its program drew for it in space. */
  private drawnBlock({ block, style, handle, x, y, rotation }: InsertEntity, projection: Projection): Entity[] {
    const { record } = this.source;
    const placed = this.block(block, projectionThrough(projection, axesOfInsert(GROUND, rotation, [1, 1, 1])));
    const at: Vector = [x, y, record.type === 'ACAD_TABLE' ? record.number(30) : 0];
    return placed ? [{ ...PLAIN_INSERT, style, handle, ...positioned(placed, projectPoint(projection, at)) }] : [];
  }

  /** A block reference: its block is read as projected through it, so that the reference itself is only a position. */
  private insert(projection: Projection, into: Entity[]): void {
    const { record, context, blocks, warnings } = this.source;
    const plane = statedPlane(record);
    const name = record.text(2).toLowerCase();
    const block = blocks.get(name);
    if (!plane || !block || record.integer(60) === 1 || record.bad) return;
    const place = { handle: record.text(5), line: record.line };
    if (block.external !== undefined) {
      const sentence = `A viewport that looks from another side does not show ${block.name}, which is in another file.`;
      warnings.add('dxf.viewport', sentence, place);
      return;
    }
    const [columns, rows] = [Math.max(1, record.integer(70, 1)), Math.max(1, record.integer(71, 1))];
    if (columns * rows > MOST_CELLS) {
      const sentence = `A viewport that looks from another side does not show an array of more than ${MOST_CELLS} ${block.name}.`;
      warnings.add('dxf.viewport', sentence, place);
      return;
    }
    const turn = (record.number(50) * Math.PI) / 180;
    const scales: Vector = [record.number(41, 1) || 1, record.number(42, 1) || 1, record.number(43, 1) || 1];
    const placed = this.block(name, projectionThrough(projection, axesOfInsert(plane, turn, scales)));
    if (!placed) return;
    const style = styleOf(record, context.names);
    const [x, y, z] = [record.number(10), record.number(20), record.number(30)];
    const at = plus(plus(scaled(plane.x, x), scaled(plane.y, y)), scaled(plane.normal, z));
    const [alongX, alongY] = axesOfInsert(plane, turn, [record.number(44), record.number(45), 1]);
    for (let cell = 0; cell < columns * rows; cell++) {
      const offset = plus(scaled(alongX, cell % columns), scaled(alongY, Math.floor(cell / columns)));
      const position = positioned(placed, projectPoint(projection, plus(at, offset)));
      into.push({ ...PLAIN_INSERT, style, handle: place.handle, ...position });
    }
  }

  /** The projected block; undefined where there would be too many. */
  private block(name: string, projection: Projection): PlacedBlock | undefined {
    const block = this.source.blocks.get(name)!;
    const stated = `${name} ${projection.flat().map((value) => value.toFixed(9))}`;
    const known = this.projected.get(stated);
    if (known) return known;
    if (this.projected.size >= MOST_BLOCKS) {
      const sentence = `A viewport that looks from another side shows blocks in more than ${MOST_BLOCKS} ways; the rest is left out.`;
      this.source.warnings.add('dxf.viewport', sentence);
      return undefined;
    }
    const key = `*projected ${this.source.blocks.size} ${name}`;
    const made: Block = { name: block.name, baseX: 0, baseY: 0, entities: [] };
    const placed = { key, base: projectPoint(projection, [block.baseX, block.baseY, 0]) };
    this.source.blocks.set(key, made);
    this.projected.set(stated, placed);
    this.waiting.push({ name, projection, block: made });
    return placed;
  }
}

/** Where a reference puts a projected block. */
function positioned({ key, base }: PlacedBlock, [x, y]: Point): Pick<InsertEntity, 'block' | 'x' | 'y'> {
  return { block: key, x: x - base[0], y: y - base[1] };
}

/** ELLIPSE: its two axes in space, each projected. */
function ellipse(record: Record, projection: Projection, context: EntityContext): Entity[] {
  const [flat] = readEntity(record, context);
  if (flat?.kind !== 'ellipse') return [];
  const u: Vector = [record.number(11), record.number(21), record.number(31)];
  const { normal } = statedPlane(record) ?? GROUND;
  const v = scaled(cross(normal, u), record.number(40, 1));
  const [cx, cy] = projectPoint(projection, [record.number(10), record.number(20), record.number(30)]);
  const [[ux, uy], [vx, vy]] = [projectPoint(projection, u), projectPoint(projection, v)];
  const seen: EllipseEntity = { ...flat, cx, cy, ux, uy, vx, vy };
  return [seen];
}
