import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020';
import { TypeSchemas } from '../lib/type-schemas.mjs';

const SOURCE = `
/** One of two. */
export type Kind = 'plan' | 'section';
interface Point { x: number; y?: number }
export interface Tree {
  /** What it is. */
  kind: Kind;
  at: readonly [number, number] | null;
  points: Point[];
  marks: Record<string, boolean>;
  children?: Tree[];
  window: Point & { name: string };
  was?: Partial<Pick<Tree, 'kind' | 'at'>>;
  anything: unknown;
}
export type Change = { [K in keyof Point]?: Point[K] | null };
export interface Bad { act(): void }
`;

describe('the JSON schemas of types', () => {
  const folder = mkdtempSync(join(tmpdir(), 'folvex-types-'));
  const entry = join(folder, 'types.ts');
  writeFileSync(entry, SOURCE);
  const schemas = new TypeSchemas(entry, { strict: true, lib: ['lib.es2022.d.ts'] }, folder, '#/$defs');
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  const check = (name: string, value: unknown): boolean => {
    const $ref = schemas.of(name);
    return new Ajv2020({ strict: false }).compile({ ...$ref, $defs: schemas.all() })(value);
  };
  const tree = {
    ...{ kind: 'plan', at: null, points: [{ x: 1 }], marks: { a: true }, window: { x: 1, name: 'w' }, anything: [] },
    children: [],
  };

  it('take what the types take, and nothing else', () => {
    expect(check('Tree', tree)).toBe(true);
    expect(check('Tree', { ...tree, children: [tree], at: [1, 2], was: { at: null } })).toBe(true);
    const wrong: Record<string, unknown>[] = [
      ...[{ kind: 'roof' }, { at: [1] }, { points: [{ y: 1 }] }, { marks: { a: 1 } }, { window: { x: 1 } }],
      ...[{ more: 1 }, { children: [{ ...tree, kind: 1 }] }, { was: { points: [] } }, { anything: undefined }],
    ];
    for (const change of wrong) expect([change, check('Tree', { ...tree, ...change })]).toEqual([change, false]);
    expect(check('Change', { x: null })).toBe(true);
    expect(check('Change', { x: '1' })).toBe(false);
  });

  it('keep names and what is said of them', () => {
    schemas.of('Tree');
    const { Tree, Kind } = schemas.all() as Record<
      string,
      { description?: string; properties: Record<string, unknown> }
    >;
    expect(Kind).toEqual({ description: 'One of two.', enum: ['plan', 'section'] });
    expect(Tree!.properties['kind']).toEqual({ description: 'What it is.', $ref: '#/$defs/Kind' });
  });

  it('are refused where a type is missing or is not of JSON', () => {
    expect(() => schemas.of('Forest')).toThrow('There is no type Forest.');
    expect(() => schemas.of('Bad')).toThrow('JSON has nothing like');
  });
});
