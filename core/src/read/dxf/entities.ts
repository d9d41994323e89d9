import { colourFromIndex } from '../../drawing/colours';
import {
  COLOUR_BY_BLOCK,
  COLOUR_BY_LAYER,
  LINE_TYPE_BY_BLOCK,
  LINE_TYPE_BY_LAYER,
  OPACITY_BY_BLOCK,
  PLAIN_INSERT,
  POLYLINE_STRIDE,
  WEIGHT_BY_LAYER,
  type Entity,
  type InsertEntity,
  type PlainEntity,
  type PolylineEntity,
  type Style,
  type ViewportEntity,
} from '../../drawing/model';
import { placeOf, type EntityContext } from './context';
import type { Affine } from '../../geometry/affine';
import type { Doubles } from './doubles';
import { readEllipse, readEndless, readSpline } from './curves';
import { readFace } from './faces';
import { drawDimension } from './dimension';
import { readHatch } from './hatch';
import { readViewport } from './layouts';
import { readLeader } from './leader';
import { readMultiline } from './mline';
import { readMultileader } from './multileader';
import { isEdgeOn, isFlat, isMirrored, PLAN, projectPlaneOf, statedPlane, turnPoints } from './projection';
import { readImage, readPdfUnderlay, readWipeout } from './pictures';
import { readSolid } from './solid';
import { drawTable } from './table-cells';
import { NEVER_PLOTS, type NameTables } from './names';
import { readProxyGraphics } from './proxy';
import type { Record } from './record';
import { columnsOf } from './paragraph';
import { readAttribute, readMtext, readText } from './texts';
import { drawTolerance } from './tolerance';

const RADIANS = Math.PI / 180;

/** Types that never draw anything of their own, so that leaving them out loses nothing. */
const NOT_DRAWN = new Set(['SEQEND', 'ENDBLK']);

/** Types stated in world coordinates, whatever their extrusion direction says (DXF reference). */
const IN_WORLD = new Set([
  'LINE',
  'ELLIPSE',
  'SPLINE',
  'POINT',
  '3DFACE',
  'RAY',
  'XLINE',
  'HELIX',
  'MULTILEADER',
  'DIMENSION',
  'WIPEOUT',
  'IMAGE',
  'PDFUNDERLAY',
]);
/** Types stated in world coordinates that lie in the plane of their extrusion direction (DXF reference). */
const WORLD_IN_PLANE = new Set(['MTEXT', 'MLINE', 'LEADER', 'TOLERANCE']);
const [INVISIBLE, CONSTANT] = [1, 2];
const BY_LAYER_INDEX = 256;
/** Flag of polylines: dashes run on round their corners. */
export const CONTINUOUS_DASHES = 128;

/** True for the definition of an attribute that is the same in all references, and so is part of the block. */
export function isConstant(record: Record): boolean {
  return (record.integer(70) & CONSTANT) !== 0;
}

/** True for an attribute, or the definition of one, that is not to be seen. */
export function isInvisible(record: Record): boolean {
  return (record.integer(70) & INVISIBLE) !== 0;
}

/**
 * What a record draws, mostly one entity. Nothing for what is invisible, meant not to be drawn, or not understood: the
 * last is counted as a warning by type. POLYLINE, VERTEX and ATTRIB belong to several records and are put together by
 * the caller. `placed` says how what is read in the plane of the record lies in the drawing.
 */
export function readEntity(record: Record, context: EntityContext, placed: Placing = onPlan): Entity[] {
  if (record.integer(60) === 1 || NOT_DRAWN.has(record.type)) return [];
  const style = styleOf(record, context.names);
  const handle = record.text(5);
  const place = (): ReturnType<typeof placeOf> => placeOf(record);
  if (WORLD_IN_PLANE.has(record.type) && !isFlat(record)) intoPlane(record);
  const shapes = shapesOf(record, style, handle, context);
  if (record.bad) {
    const sentence = `A ${record.type} has a coordinate that is not a usable number and was left out; redraw it in its program.`;
    context.warnings.add('dxf.bad-number', sentence, place());
    return [];
  }
  if (shapes !== 'unknown') return placed(record, shapes);
  const stored = storedGraphics(record, style, handle, context);
  if (stored) return stored;
  const { layer } = place();
  // What lies on this layer is never printed, so that leaving it out loses nothing.
  if (layer.toLowerCase() === NEVER_PLOTS) return [];
  context.warnings.add('dxf.not-shown', `${record.type} is not shown yet.`, place());
  return [];
}

type Untilted = PlainEntity | ViewportEntity;

/** How entities in the plane of their record come to lie in the drawing. */
type Placing = (record: Record, shapes: readonly Untilted[]) => Entity[];

/** Entities as they are seen on the plan, also those drawn in a plane that is tilted in space. */
function onPlan(record: Record, shapes: readonly Untilted[]): Entity[] {
  if (isFlat(record) || IN_WORLD.has(record.type)) return [...shapes];
  const map = projectPlaneOf(record, PLAN);
  const seen = shapes.filter((entity) => !isEdgeOn(entity, map));
  return seen.map((entity) => (entity.kind === 'viewport' ? entity : inPlane(entity, map)));
}

/** An entity in a plane that is projected. */
export function inPlane(entity: PlainEntity, map: Affine): Entity {
  return { kind: 'tilted', style: entity.style, handle: entity.handle, map, entity };
}

/** Gives the points of a record that are stated in the world in the plane that it states too. */
function intoPlane(record: Record): void {
  const plane = statedPlane(record);
  if (plane) turnPoints(record, [plane.x, plane.y, plane.normal]);
}

/** The appearance that an entity states; entities with the same one share one object. */
export function styleOf(record: Record, names: NameTables): Style {
  const layer = record.layer(names);
  // Most entities have only a layer and an indexed colour.
  const plain = !(record.has(6) || record.has(48) || record.has(370) || record.has(420) || record.has(440));
  if (plain) return names.plainStyle(layer, record.has(62) ? record.integer(62) : BY_LAYER_INDEX, colourOf);
  return names.style(
    layer,
    record.has(420) ? record.integer(420) & 0xffffff : colourOf(record.integer(62, BY_LAYER_INDEX)),
    record.integer(370, WEIGHT_BY_LAYER),
    record.has(6) ? lineTypeOf(record.name(6), names) : LINE_TYPE_BY_LAYER,
    record.number(48, 1),
    opacityOf(record),
  );
}

/** Transparency (code 440): the highest byte says how it is meant, the lowest is the opacity of 255. */
function opacityOf(record: Record): number | undefined {
  return record.has(440) ? opacityFrom(record.integer(440)) : undefined;
}

/** Transparency in per cent, or by block, from the form in the file; undefined where none is set. */
export function opacityFrom(value: number): number | undefined {
  const how = (value >>> 24) & 0xff;
  if (how === 1) return OPACITY_BY_BLOCK;
  return how === 2 ? Math.round(((value & 0xff) / 255) * 100) : undefined;
}

function shapesOf(record: Record, style: Style, handle: string, context: EntityContext): Untilted[] | 'unknown' {
  if (record.type === 'VIEWPORT') {
    const seen = readViewport(record, style, handle, context.names, context.projections);
    if (seen?.unlike) context.warnings.add('dxf.viewport', `A viewport ${seen.unlike}.`, placeOf(record));
    return seen ? [seen.viewport] : [];
  }
  if (record.type === 'LEADER') return readLeader(record, style, handle, context.names);
  if (record.type === 'MULTILEADER') return readMultileader(record, style, handle, context.names);
  if (record.type === 'TOLERANCE') return drawTolerance(record, style, handle, context.names);
  const shape = shapeOf(record, style, handle, context);
  if (shape === 'nothing') return [];
  return shape === 'unknown' ? shape : [shape];
}

/** What the program that wrote an entity stored to be shown in its place, in the world; undefined where there is nothing. */
function storedGraphics(
  record: Record,
  style: Style,
  handle: string,
  { names, warnings, projection }: EntityContext,
): Entity[] | undefined {
  const stored = readProxyGraphics(record, style, handle, names, projection);
  if (!stored) return undefined;
  const missing = stored.partly ? ' Parts of it are not understood and left out.' : '';
  const sentence = `${record.type} is shown as its program stored it in the file.${missing}`;
  warnings.add('dxf.stored-graphics', sentence, placeOf(record));
  return stored.shapes;
}

type Shape = PlainEntity | 'unknown' | 'nothing';

function shapeOf(record: Record, style: Style, handle: string, context: EntityContext): Shape {
  const { names, warnings } = context;
  switch (record.type) {
    case 'LINE':
      return readLine(record, style, handle);
    case 'LWPOLYLINE':
      return readLightPolyline(record, style, handle, context.doubles);
    case 'CIRCLE':
    case 'ARC':
      return readArc(record, style, handle);
    case 'ELLIPSE':
      return readEllipse(record, style, handle);
    case 'SPLINE':
    case 'HELIX':
      return readSpline(record, style, handle) ?? badSpline(record, context);
    case 'RAY':
    case 'XLINE':
      return readEndless(record, style, handle);
    case 'POINT':
      return { kind: 'point', style, handle, x: record.number(10), y: record.number(20) };
    case '3DFACE':
      return readFace(record, style, handle);
    case 'TEXT':
      return readText(record, style, handle, names);
    case 'ATTRIB':
    case 'ATTDEF':
      return readAttribute(record, style, handle, names);
    case 'MLINE':
      return readMline(record, style, handle, context);
    case 'MTEXT':
      return readMtext(record, style, handle, names, columnsOf(record));
    case 'INSERT':
      return readInsert(record, style, handle);
    case 'DIMENSION':
    case 'ARC_DIMENSION':
    case 'LARGE_RADIAL_DIMENSION':
      return readDimension(record, style, handle, context);
    case 'ACAD_TABLE':
      return readTable(record, style, handle, context);
    case 'SOLID':
    case 'TRACE':
      return readSolid(record, style, handle);
    case 'HATCH':
      return readHatch(record, style, handle, warnings);
    case 'WIPEOUT':
      return readWipeout(record, style, handle);
    case 'IMAGE':
      return readImage(record, style, handle, context);
    case 'PDFUNDERLAY':
      return readPdfUnderlay(record, style, handle, context);
    default:
      return 'unknown';
  }
}

/** An MLINE lies in a block of its own, since its style is known only at the end of the file. */
function readMline(
  record: Record,
  style: Style,
  handle: string,
  { multiline, warnings }: EntityContext,
): PlainEntity | 'nothing' {
  const line = readMultiline(record, style, handle);
  if (line) return { ...PLAIN_INSERT, style, handle, block: multiline(line) };
  const sentence =
    'An MLINE has corners and elements that do not fit together and was left out; redraw it in its program.';
  warnings.add('dxf.bad-multiline', sentence, placeOf(record));
  return 'nothing';
}

function badSpline(record: Record, { warnings }: EntityContext): 'nothing' {
  const place = placeOf(record);
  const sentence = 'A SPLINE has knots and points that do not fit together and was left out; redraw it in its program.';
  warnings.add('dxf.bad-spline', sentence, place);
  return 'nothing';
}

function readLine(record: Record, style: Style, handle: string): PlainEntity {
  const [x0, y0, x1, y1] = [record.number(10), record.number(20), record.number(11), record.number(21)];
  return { kind: 'line', style, handle, x0, y0, x1, y1 };
}

/** The colour behind an index (code 62), which is negative on layers that are off. */
function colourOf(index: number): number {
  if (index === BY_LAYER_INDEX) return COLOUR_BY_LAYER;
  return index === 0 ? COLOUR_BY_BLOCK : colourFromIndex(Math.abs(index));
}

function lineTypeOf(name: string, names: NameTables): number {
  const key = name.toUpperCase();
  if (key === '' || key === 'BYLAYER') return LINE_TYPE_BY_LAYER;
  return key === 'BYBLOCK' ? LINE_TYPE_BY_BLOCK : names.lineType(name);
}

function readArc(record: Record, style: Style, handle: string): PlainEntity {
  const mirrored = isMirrored(record);
  const full = record.type === 'CIRCLE';
  const start = record.number(50) * RADIANS;
  const end = record.number(51) * RADIANS;
  return {
    kind: 'arc',
    style,
    handle,
    cx: mirrored ? -record.number(10) : record.number(10),
    cy: record.number(20),
    radius: Math.abs(record.number(40)),
    start: mirrored ? Math.PI - end : start,
    end: mirrored ? Math.PI - start : end,
    full,
  };
}

function readLightPolyline(record: Record, style: Style, handle: string, doubles: Doubles): PolylineEntity {
  const mirror = isMirrored(record) ? -1 : 1;
  const constant = record.number(43);
  const vertices = doubles.take(record.countOf(10) * POLYLINE_STRIDE);
  let at = -POLYLINE_STRIDE;
  for (let i = 0; i < record.count; i++) {
    const code = record.codes[i]!;
    if (code === 10) {
      at += POLYLINE_STRIDE;
      vertices[at] = mirror * record.numberAt(i);
      vertices[at + 3] = vertices[at + 4] = constant;
    } else if (at < 0) continue;
    else if (code === 20) vertices[at + 1] = record.numberAt(i);
    else if (code === 42) vertices[at + 2] = mirror * record.numberAt(i);
    else if (code === 40) vertices[at + 3] = record.numberAt(i);
    else if (code === 41) vertices[at + 4] = record.numberAt(i);
  }
  const flags = record.integer(70);
  const polyline: PolylineEntity = { kind: 'polyline', style, handle, vertices, closed: (flags & 1) === 1 };
  if (flags & CONTINUOUS_DASHES) polyline.dashesRunOn = true;
  return polyline;
}

function readInsert(record: Record, style: Style, handle: string): InsertEntity {
  const mirror = isMirrored(record) ? -1 : 1;
  return {
    kind: 'insert',
    style,
    handle,
    block: record.text(2).toLowerCase(),
    x: mirror * record.number(10),
    y: record.number(20),
    scaleX: mirror * (record.number(41, 1) || 1),
    scaleY: record.number(42, 1) || 1,
    rotation: mirror * record.number(50) * RADIANS,
    columns: Math.max(1, record.integer(70, 1)),
    rows: Math.max(1, record.integer(71, 1)),
    columnSpacing: mirror * record.number(44),
    rowSpacing: record.number(45),
    attributes: [],
  };
}

/** A dimension is shown by the block that its program drew for it, in world coordinates; without one, by its values. */
function readDimension(record: Record, style: Style, handle: string, context: EntityContext): PlainEntity | 'unknown' {
  // Arc and jogged dimensions keep other values: they are shown by their blocks only.
  const drawn = (): PlainEntity[] | undefined =>
    record.type === 'DIMENSION' ? drawDimension(record, style, handle, context.names) : undefined;
  const block = context.drawnBlock(record.text(2).toLowerCase(), drawn);
  return block === undefined ? 'unknown' : { ...PLAIN_INSERT, style, handle, block };
}

/** A table is shown by the block that its program drew for it, placed and turned; without one, by its cells. */
function readTable(record: Record, style: Style, handle: string, context: EntityContext): PlainEntity | 'unknown' {
  const block = context.drawnBlock(record.text(2).toLowerCase(), () => drawTable(record, style, handle, context.names));
  if (block === undefined) return 'unknown';
  const rotation = Math.atan2(record.number(21), record.number(11, 1));
  return { ...PLAIN_INSERT, style, handle, block, x: record.number(10), y: record.number(20), rotation };
}
