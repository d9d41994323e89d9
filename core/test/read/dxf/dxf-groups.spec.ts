import fc from 'fast-check';
import type { LineEntity } from '../../../src/index';
import { parseNumber } from '../../../src/read/dxf/groups';
import { bytesOf, dxf, entitiesOf, groups, line, read, section } from '../../support/dxf';

describe('numbers from bytes', () => {
  it('are exactly what the language itself reads', () => {
    const texts = fc.oneof(
      fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
      fc.tuple(fc.integer(), fc.nat(999_999)).map(([a, b]) => `${a}.${b}`),
      fc.integer().map((n) => `  ${n} `),
      fc.constantFrom('.5', '5.', '+3', '-0', '1e5', '2.5E-3', '00012.50'),
    );
    fc.assert(
      fc.property(texts, (text) => {
        const bytes = bytesOf(text);
        expect(Object.is(parseNumber(bytes, 0, bytes.length), Number(text.trim()))).toBe(true);
      }),
      { numRuns: 2000 },
    );
  });

  it('come out of an entity just so, however they are written', () => {
    const texts = fc.oneof(
      fc.double({ min: -1e9, max: 1e9, noNaN: true }).map(String),
      fc.tuple(fc.integer({ min: -1e10, max: 1e10 }), fc.nat(9_999_999)).map(([a, b]) => `${a}.${b}`),
      fc.tuple(fc.nat(9999), fc.nat(999), fc.nat(6)).map(([a, b, n]) => `  ${a}.${'0'.repeat(n)}${b}`),
      fc.constantFrom('.5', '-.25', '5.', '+3', '-0', '-0.0', '1e5', '2.5E-3', '00012.50', '7 ', '0.0000001'),
    );
    fc.assert(
      fc.property(texts, fc.constantFrom('\n', '\r\n'), (text, end) => {
        const [entity] = read(dxf({ entities: groups([0, 'LINE'], [8, '0'], [10, text]) }).replace(/\n/g, end)).drawing
          .spaces[0]!.entities;
        expect(Object.is((entity as LineEntity).x0, Number(text.trim()))).toBe(true);
      }),
      { numRuns: 1000 },
    );
  });

  it('broken by a lone carriage return is none', () => {
    const { drawing, warnings } = read(dxf({ entities: groups([0, 'LINE'], [8, '0'], [10, '1.5\rX']) }));
    expect(drawing.spaces[0]!.entities).toEqual([]);
    expect(warnings.map(({ code }) => code)).toEqual(['dxf.bad-number']);
  });

  it.each(['', ' ', 'abc', '1.2.3', '--1', '1 2'])('%j is not a number', (text) => {
    const bytes = bytesOf(text);
    expect(parseNumber(bytes, 0, bytes.length)).toBeNaN();
  });
});

describe('groups', () => {
  const plain = dxf({ entities: line(1, 2, 3, 4) });

  it.each([
    ['carriage returns', plain.replace(/\n/g, '\r\n')],
    ['blanks before codes and values', plain.replace(/^(-?\d+)$/gm, '  $1')],
    ['a byte order mark', `\uFEFF${plain}`],
    ['comments', plain.replace('0\nLINE', '999\nwritten by hand\n0\nLINE')],
    ['lower-case words', plain.replace('ENTITIES', 'entities').replace('LINE', 'line')],
    ['no end of file', plain.replace('0\nEOF\n', '')],
    ['only entities', section('ENTITIES', line(1, 2, 3, 4))],
    [
      'sections in another order',
      section('ENTITIES', line(1, 2, 3, 4)) + section('HEADER', groups([9, '$INSUNITS'], [70, 6])) + '0\nEOF\n',
    ],
  ])('are read with %s', (_, text) => {
    const [entity] = read(text).drawing.spaces[0]!.entities;
    expect(entity).toMatchObject({ kind: 'line', x0: 1, y0: 2, x1: 3, y1: 4 });
  });

  it('tells where a file breaks off and keeps what came before', () => {
    const whole = dxf({ entities: line(1, 2, 3, 4) + line(5, 6, 7, 8) });
    const { drawing, warnings } = read(whole.slice(0, whole.indexOf('11\n7')));
    expect(drawing.spaces[0]!.entities.length).toBeGreaterThanOrEqual(1);
    expect(warnings.map(({ code }) => code)).toContain('dxf.truncated');
    expect(warnings[0]!.place.line).toBeGreaterThan(10);
  });

  it('reads names in the code page that the file states', () => {
    const text = dxf({
      header: groups([9, '$ACADVER'], [1, 'AC1015'], [9, '$DWGCODEPAGE'], [3, 'ANSI_1250']),
      entities: groups([0, 'LINE'], [8, 'ŁAŹNIA'], [10, 0], [20, 0], [11, 1], [21, 1]),
    });
    // Windows-1250: Ł is A3, Ź is 8F.
    const bytes = Uint8Array.from(text, (c) => ({ Ł: 0xa3, Ź: 0x8f })[c] ?? c.charCodeAt(0));
    expect(read(bytes).drawing.layers.map(({ name }) => name)).toContain('ŁAŹNIA');
  });

  it('reads many equal and different layer names apart', () => {
    const names = Array.from({ length: 300 }, (_, i) => `L-${i % 150}`);
    const entities = names.map((name) => groups([0, 'LINE'], [8, name], [10, 0], [20, 0], [11, 1], [21, 1])).join('');
    const { drawing } = read(dxf({ entities }));
    const found = drawing.spaces[0]!.entities.map((entity) => drawing.layers[entity.style.layer]!.name);
    expect(found).toEqual(names);
  });
});

describe('bad numbers', () => {
  it.each(['NaN', '1e308', 'Infinity', 'abc', ''])(
    'leaves out an entity with the coordinate %j, with a warning',
    (bad) => {
      const broken = groups([0, 'LINE'], [5, 'A1'], [8, '0'], [10, bad], [20, 0], [11, 1], [21, 1]);
      const { drawing, warnings } = read(dxf({ entities: broken + line(0, 0, 1, 1) }));
      expect(drawing.spaces[0]!.entities).toHaveLength(1);
      expect(warnings).toEqual([
        expect.objectContaining({ code: 'dxf.bad-number', place: expect.objectContaining({ handle: 'A1' }) }),
      ]);
    },
  );

  it('keeps real-world coordinates to the last digit', () => {
    const [entity] = entitiesOf(line(5_412_345.6789, 512_345.1234, 5_412_346, 512_346));
    expect(entity).toMatchObject({ x0: 5_412_345.6789, y0: 512_345.1234 });
  });
});
