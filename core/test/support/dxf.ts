import { readDxf, type Drawing, type Problem } from '../../src/index';

type Group = readonly [code: number, value: string | number];

/** Group pairs as DXF text. */
export function groups(...pairs: readonly Group[]): string {
  return pairs.map(([code, value]) => `${code}\n${value}\n`).join('');
}

export function section(name: string, body: string): string {
  return groups([0, 'SECTION'], [2, name]) + body + groups([0, 'ENDSEC']);
}

export function layer(name: string, ...more: readonly Group[]): string {
  return groups([0, 'LAYER'], [2, name], ...more);
}

export function table(name: string, body: string): string {
  return groups([0, 'TABLE'], [2, name]) + body + groups([0, 'ENDTAB']);
}

export function block(name: string, body: string, ...more: readonly Group[]): string {
  return groups([0, 'BLOCK'], [8, '0'], [2, name], [10, 0], [20, 0], ...more) + body + groups([0, 'ENDBLK']);
}

interface Parts {
  header?: string;
  layers?: string;
  /** Tables besides that of the layers. */
  tables?: string;
  blocks?: string;
  entities?: string;
  objects?: string;
}

/** A whole file: millimetres, with the parts given. */
export function dxf({ header = '', layers = '', tables = '', blocks = '', entities = '', objects }: Parts): string {
  return (
    section('HEADER', groups([9, '$INSUNITS'], [70, 4]) + header) +
    section('TABLES', table('LAYER', layers) + tables) +
    section('BLOCKS', blocks) +
    section('ENTITIES', entities) +
    (objects === undefined ? '' : section('OBJECTS', objects)) +
    groups([0, 'EOF'])
  );
}

/** The parts of a file whose paper space is laid out under a name, with the plot settings given. */
export function laidOut(name: string, ...settings: readonly Group[]): Required<Pick<Parts, 'tables' | 'objects'>> {
  return {
    tables: table('BLOCK_RECORD', groups([0, 'BLOCK_RECORD'], [5, 'B1'], [2, '*Paper_Space'])),
    objects: groups([0, 'LAYOUT'], ...settings, [1, name], [330, 'B1']),
  };
}

/** A viewport of the paper space about `cx`, `cy`, paper units, that shows `shown` units of the model in its height. */
export function viewport(
  { cx, cy, size, shown }: Readonly<{ cx: number; cy: number; size: number; shown: number }>,
  ...more: readonly Group[]
): string {
  const head: Group[] = [
    [0, 'VIEWPORT'],
    [5, 'V1'],
    [8, '0'],
    [67, 1],
    [10, cx],
    [20, cy],
    [40, size],
    [41, size],
  ];
  return groups(...head, [45, shown], [68, 2], [69, 2], ...more);
}

export function bytesOf(text: string): Uint8Array {
  return new TextEncoder().encode(text);
}

/** Reads a text that must be readable. */
export function read(text: string | Uint8Array): { drawing: Drawing; warnings: Problem[] } {
  const result = readDxf(typeof text === 'string' ? bytesOf(text) : text, 'test.dxf');
  if (!result.ok) throw new Error(result.problem.sentence);
  return result;
}

/** The entities of a file's model. */
export function entitiesOf(entities: string, parts: Parts = {}) {
  return read(dxf({ ...parts, entities })).drawing.spaces[0]!.entities;
}

export function line(x0: number, y0: number, x1: number, y1: number, ...more: readonly Group[]): string {
  return groups([0, 'LINE'], [8, '0'], [10, x0], [20, y0], [11, x1], [21, y1], ...more);
}
