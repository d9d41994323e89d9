import { resolve, topLevel } from './resolve';
import { COLOUR_FOREGROUND, POLYLINE_STRIDE, type Drawing, type Entity } from './model';

/** The description of an entity: what it is, and its resolved properties. */
export interface EntityFacts {
  kind: string;
  handle: string;
  layer: string;
  /** 0xRRGGBB; null for the foreground (black on paper). */
  colour: number | null;
  /** 1/100 mm. */
  weight: number;
  lineType: string;
  /** Lengths in drawing units, angles in degrees. */
  facts: [name: string, value: string | number][];
}

const DEGREES = 180 / Math.PI;
const NAMES: Readonly<Record<Entity['kind'], string>> = {
  line: 'Line',
  polyline: 'Polyline',
  arc: 'Arc',
  ellipse: 'Ellipse',
  path: 'Curve',
  point: 'Point',
  text: 'Text',
  fill: 'Fill',
  hatch: 'Hatch',
  picture: 'Picture',
  insert: 'Block reference',
  tilted: 'Tilted entity',
  viewport: 'Viewport',
};

/** Describes an entity of a space. */
export function describeEntity(drawing: Drawing, listed: Entity): EntityFacts {
  const entity = listed.kind === 'tilted' ? listed.entity : listed;
  const looks = resolve(drawing, entity.style, topLevel());
  return {
    kind: entity.kind === 'arc' && entity.full ? 'Circle' : NAMES[entity.kind],
    handle: entity.handle,
    layer: drawing.layers[looks.layer]?.name ?? '0',
    colour: looks.colour === COLOUR_FOREGROUND ? null : looks.colour,
    weight: looks.weight,
    lineType: drawing.lineTypes[looks.lineType]?.name ?? '',
    facts: factsOf(drawing, entity),
  };
}

function factsOf(drawing: Drawing, entity: Exclude<Entity, { kind: 'tilted' }>): EntityFacts['facts'] {
  switch (entity.kind) {
    case 'line':
      return [['Length', Math.hypot(entity.x1 - entity.x0, entity.y1 - entity.y0)]];
    case 'polyline': {
      const { vertices, closed } = entity;
      const points = vertices.length / POLYLINE_STRIDE;
      return [
        ['Vertices', points],
        [closed ? 'Outline' : 'Length', lengthOf(vertices, closed)],
        ...(closed ? [['Area', areaOf(vertices)] as [string, number]] : []),
      ];
    }
    case 'arc': {
      const turn = entity.full
        ? 2 * Math.PI
        : (((entity.end - entity.start) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
      return [
        ['Radius', entity.radius],
        ['Length', entity.radius * turn],
        ...(entity.full ? [] : [['Angle', turn * DEGREES] as [string, number]]),
      ];
    }
    case 'text':
      return [
        ['Text', entity.lines.join(' ')],
        ['Height', entity.height],
        ['Style', drawing.textStyles[entity.textStyle]?.name ?? ''],
      ];
    case 'insert':
      return [
        ['Block', drawing.blocks.get(entity.block)?.name ?? entity.block],
        ...entity.attributes.map(({ lines }): [string, string] => ['Attribute', lines.join(' ')]),
      ];
    case 'hatch':
      return [['Families of lines', entity.families.length]];
    default:
      return [];
  }
}

/** Length of a polyline, arcs (bulge = tangent of a quarter of the angle) by their own length. */
function lengthOf(vertices: Float64Array, closed: boolean): number {
  let sum = 0;
  for (const [x0, y0, bulge, x1, y1] of sides(vertices, closed)) {
    const chord = Math.hypot(x1 - x0, y1 - y0);
    const angle = 4 * Math.atan(Math.abs(bulge));
    sum += bulge === 0 ? chord : (chord / (2 * Math.sin(angle / 2))) * angle;
  }
  return sum;
}

/** Area within a closed polyline, its arcs with the segments they cut off. */
function areaOf(vertices: Float64Array): number {
  let twice = 0;
  for (const [x0, y0, bulge, x1, y1] of sides(vertices, true)) {
    twice += x0 * y1 - x1 * y0;
    if (bulge === 0) continue;
    const angle = 4 * Math.atan(bulge);
    const radius = Math.hypot(x1 - x0, y1 - y0) / (2 * Math.sin(Math.abs(angle) / 2));
    twice += radius * radius * (angle - Math.sin(angle));
  }
  return Math.abs(twice) / 2;
}

function* sides(vertices: Float64Array, closed: boolean): Generator<[number, number, number, number, number]> {
  const count = vertices.length / POLYLINE_STRIDE;
  for (let i = 0; i < (closed ? count : count - 1); i++) {
    const [a, b] = [i * POLYLINE_STRIDE, ((i + 1) % count) * POLYLINE_STRIDE];
    yield [vertices[a]!, vertices[a + 1]!, vertices[a + 2]!, vertices[b]!, vertices[b + 1]!];
  }
}
