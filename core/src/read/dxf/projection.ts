import type { Affine } from '../../geometry/affine';
import { cross, plus, scaled, type Vector } from '../../geometry/vector';
import { PLAIN_INSERT, type Block, type EllipseEntity, type Entity, type PlainEntity } from '../../drawing/model';
import type { Warnings } from '../warnings';
import { isConstant, readEntity, styleOf, type EntityContext } from './entities';
import type { GroupReader, Mark } from './groups';
import { addVertex, finishPolyline, IN_SPACE, openPolyline, type OpenPolyline } from './polyline';
import type { Record } from './record';
import {
  axesOfInsert,
  elevationOf,
  GROUND,
  isEdgeOn,
  isFlat,
  isMirrored,
  planeSeen,
  seenAt,
  sightThrough,
  statedPlane,
  type Sight,
} from './sight';

/** Entities that are given by points in space, which are projected one by one. */
const POINTWISE = new Set(['LINE', 'POINT', '3DFACE', 'SPLINE', 'HELIX', 'RAY', 'XLINE']);
/** A block is read anew for each orientation of its references: the most such readings, and the most references of one array. */
const [MOST_BLOCKS, MOST_CELLS] = [5000, 10_000];
/** Codes of the first coordinate of points in space; those of the others are 10 and 20 above it. */
const [FIRST_POINT, LAST_POINT] = [10, 18];

/** A block as projected through a reference to it, still to be read. */
interface SeenBlock {
  name: string;
  sight: Sight;
  block: Block;
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
  /** The blocks of the file by their names in lower case, to which those that are seen are added. */
  blocks: Map<string, Block>;
  warnings: Warnings;
}

/** The model of a file, read once more for each projection: all edges, hidden ones too. */
export function readProjections(sights: readonly Sight[], source: ProjectionSource): Entity[][] {
  return sights.map((sight) => new Projector(source).model(sight));
}

class Projector {
  private readonly seen = new Map<string, string>();
  private readonly waiting: SeenBlock[] = [];

  constructor(private readonly source: ProjectionSource) {}

  model(sight: Sight): Entity[] {
    const entities: Entity[] = [];
    for (const mark of this.source.model) this.entities(mark, 'ENDSEC', sight, entities);
    for (let next = this.waiting.shift(); next; next = this.waiting.shift()) {
      const mark = this.source.marks.get(next.name);
      if (mark) this.entities(mark, 'ENDBLK', next.sight, next.block.entities);
    }
    return entities;
  }

  /** Reads entities up to a word, as they are seen. */
  private entities(from: Mark, until: string, sight: Sight, into: Entity[]): void {
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
        if (polyline?.inSpace) project(record, sight);
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
        into.push(inSpace ? open.entity : inPlane(open.entity, planeMap(record, sight)));
      } else if (record.type === 'INSERT') this.insert(sight, into);
      else if (record.type !== 'VIEWPORT' && (record.type !== 'ATTDEF' || isConstant(record))) {
        for (const entity of this.entity(sight)) into.push(entity);
      }
    }
    finish();
  }

  private entity(sight: Sight): Entity[] {
    const { record, context } = this.source;
    if (POINTWISE.has(record.type)) {
      project(record, sight);
      return readEntity(record, context);
    }
    if (record.type === 'ELLIPSE') return ellipse(record, sight, context);
    const map = planeMap(record, sight);
    return readEntity(record, context, (_, shapes) =>
      shapes.flatMap((shape) => (shape.kind === 'viewport' || isEdgeOn(shape, map) ? [] : [inPlane(shape, map)])),
    );
  }

  /** A block reference: its block is read as projected through it, so that the reference itself is only a position. */
  private insert(sight: Sight, into: Entity[]): void {
    const { record, context, blocks, warnings } = this.source;
    const plane = statedPlane(record);
    const name = record.text(2).toLowerCase();
    const block = blocks.get(name);
    if (!plane || !block || record.integer(60) === 1 || record.bad) return;
    if (block.external !== undefined) {
      const sentence = `A viewport that looks from another side does not show ${block.name}, which is in another file.`;
      warnings.add('dxf.viewport', sentence, { handle: record.text(5), line: record.line });
      return;
    }
    const turn = (record.number(50) * Math.PI) / 180;
    const scales: Vector = [record.number(41, 1) || 1, record.number(42, 1) || 1, record.number(43, 1) || 1];
    const axes = axesOfInsert(plane, turn, scales);
    const through = sightThrough(sight, axes);
    const key = this.block(name, block, through);
    if (key === undefined) return;
    const [columns, rows] = [Math.max(1, record.integer(70, 1)), Math.max(1, record.integer(71, 1))];
    if (columns * rows > MOST_CELLS) return;
    const style = styleOf(record, context.names);
    const place: Vector = [record.number(10), record.number(20), record.number(30)];
    const [alongX, alongY] = axesOfInsert(plane, turn, [record.number(44), record.number(45), 1]);
    const at = plus(plus(scaled(plane.x, place[0]), scaled(plane.y, place[1])), scaled(plane.normal, place[2]));
    const [baseX, baseY] = seenAt(through, [block.baseX, block.baseY, 0]);
    for (let cell = 0; cell < columns * rows; cell++) {
      const offset = plus(scaled(alongX, cell % columns), scaled(alongY, Math.floor(cell / columns)));
      const [x, y] = seenAt(sight, plus(at, offset));
      into.push({ ...PLAIN_INSERT, style, handle: record.text(5), block: key, x: x - baseX, y: y - baseY });
    }
  }

  /** Key of the projected block; undefined where there would be too many. */
  private block(name: string, block: Block, sight: Sight): string | undefined {
    const stated = `${name} ${sight.flat().map((value) => value.toFixed(9))}`;
    const known = this.seen.get(stated);
    if (known !== undefined) return known;
    if (this.seen.size >= MOST_BLOCKS) {
      const sentence = `A viewport that looks from another side shows blocks in more than ${MOST_BLOCKS} ways; the rest is left out.`;
      this.source.warnings.add('dxf.viewport', sentence);
      return undefined;
    }
    const key = `*seen ${this.source.blocks.size} ${name}`;
    const seen: Block = { name: block.name, baseX: 0, baseY: 0, entities: [] };
    this.source.blocks.set(key, seen);
    this.seen.set(stated, key);
    this.waiting.push({ name, sight, block: seen });
    return key;
  }
}

/** Replaces the points of a record by their projections. */
function project(record: Record, sight: Sight): void {
  for (let i = 0; i < record.count; i++) {
    const code = record.codes[i]!;
    if (code < FIRST_POINT || code > LAST_POINT || record.codes[i + 1] !== code + 10) continue;
    const high = record.codes[i + 2] === code + 20;
    const point: Vector = [record.numberAt(i), record.numberAt(i + 1), high ? record.numberAt(i + 2) : 0];
    const [x, y] = seenAt(sight, point);
    record.setNumber(i, x);
    record.setNumber(i + 1, y);
  }
}

/** How the plane of an entity is seen. */
function planeMap(record: Record, sight: Sight): Affine {
  // What lies flat is read in the coordinates of the world, also where it was drawn from below.
  const plane = isFlat(record) ? undefined : statedPlane(record);
  const height = elevationOf(record);
  return plane ? planeSeen(sight, plane, height) : planeSeen(sight, GROUND, isMirrored(record) ? -height : height);
}

function inPlane(entity: PlainEntity, map: Affine): Entity {
  return { kind: 'tilted', style: entity.style, handle: entity.handle, map, entity };
}

/** ELLIPSE: its two axes in space, each projected. */
function ellipse(record: Record, sight: Sight, context: EntityContext): Entity[] {
  const [flat] = readEntity(record, context);
  if (flat?.kind !== 'ellipse') return [];
  const u: Vector = [record.number(11), record.number(21), record.number(31)];
  const { normal } = statedPlane(record) ?? GROUND;
  const v = scaled(cross(normal, u), record.number(40, 1));
  const [cx, cy] = seenAt(sight, [record.number(10), record.number(20), record.number(30)]);
  const [[ux, uy], [vx, vy]] = [seenAt(sight, u), seenAt(sight, v)];
  const seen: EllipseEntity = { ...flat, cx, cy, ux, uy, vx, vy };
  return [seen];
}
