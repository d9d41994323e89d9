import { apply, COLOUR_FOREGROUND, type Drawing, type Entity } from '../../src/index';
import type { Resolved } from '../../src/drawing/resolve';
import { walk, type WalkStop } from '../../src/sheet/walk';
import { block, dxf, groups, layer, line, read } from '../support/dxf';

interface Seen {
  entity: Entity;
  looks: Resolved;
  /** Where the entity's origin comes to. */
  at: [number, number];
}

function seen(drawing: Drawing, hidden: string[] = []): { seen: Seen[]; stops: [WalkStop, string][] } {
  const result = { seen: [] as Seen[], stops: [] as [WalkStop, string][] };
  walk(
    drawing,
    drawing.spaces[0]!.entities,
    {
      entity: (entity, looks, map) => result.seen.push({ entity, looks, at: apply(map, 0, 0) }),
      stopped: (why, name) => result.stops.push([why, name]),
    },
    new Set(hidden),
  );
  return result;
}

const insert = (name: string, ...more: [number, string | number][]): string =>
  groups([0, 'INSERT'], [8, '0'], [2, name], [10, 0], [20, 0], ...more);

describe('properties through nested blocks', () => {
  const layers = layer('RED', [62, 1], [370, 70]) + layer('GREEN', [62, 3], [370, 13]);
  const on = (name: string, ...more: [number, string | number][]): string =>
    line(0, 0, 1, 1, ...more).replace('8\n0\n', `8\n${name}\n`);

  it('gives layer 0 the properties of the layer that the reference lies on', () => {
    const { drawing } = read(
      dxf({ layers, blocks: block('B', on('0') + on('GREEN')), entities: insert('B').replace('8\n0\n', '8\nRED\n') }),
    );
    const looks = seen(drawing).seen.map((item) => item.looks);
    expect(looks.map(({ colour, weight }) => [colour, weight])).toEqual([
      [0xff0000, 70],
      [0x00ff00, 13],
    ]);
    expect(drawing.layers[looks[0]!.layer]!.name).toBe('RED');
  });

  it('gives by-block entities what the reference says, through every level', () => {
    const { drawing } = read(
      dxf({
        layers,
        blocks: block('INNER', on('GREEN', [62, 0], [370, -2])) + block('OUTER', insert('INNER', [62, 0], [370, -2])),
        entities: insert('OUTER', [62, 5], [370, 100]),
      }),
    );
    expect(seen(drawing).seen[0]!.looks).toMatchObject({ colour: 0x0000ff, weight: 100 });
  });

  it('falls back to foreground and the default weight outside blocks', () => {
    const { drawing } = read(dxf({ entities: on('0', [62, 0], [370, -3]) }));
    expect(seen(drawing).seen[0]!.looks).toMatchObject({ colour: COLOUR_FOREGROUND, weight: 25 });
  });
});

describe('what is visible', () => {
  const layers = layer('OFF', [62, -7]) + layer('FROZEN', [70, 1]) + layer('NOPLOT', [290, 0]) + layer('ON', [62, 7]);
  const blocks = block('B', line(0, 0, 1, 1) + line(0, 0, 2, 2).replace('8\n0\n', '8\nON\n'));
  const shown = (entities: string, hidden: string[] = []) =>
    seen(read(dxf({ layers, blocks, entities })).drawing, hidden).seen.length;
  const at = (name: string, entity: string): string => entity.replace('8\n0\n', `8\n${name}\n`);

  it('hides lines on layers that are off, frozen or do not plot', () => {
    for (const name of ['OFF', 'FROZEN', 'NOPLOT']) expect(shown(at(name, line(0, 0, 1, 1)))).toBe(0);
    expect(shown(at('ON', line(0, 0, 1, 1)))).toBe(1);
    expect(shown(at('ON', line(0, 0, 1, 1)), ['on'])).toBe(0);
  });

  // DXF practice: a frozen reference hides its whole block; one on a layer that is off, only what inherits that layer.
  it('hides a whole block only when its reference is frozen', () => {
    expect(shown(at('FROZEN', insert('B')))).toBe(0);
    expect(shown(at('OFF', insert('B')))).toBe(1);
    expect(shown(at('ON', insert('B')))).toBe(2);
  });
});

describe('references', () => {
  it('repeat in an array whose spacing turns with them but is not scaled', () => {
    const { drawing } = read(
      dxf({
        blocks: block('B', line(0, 0, 1, 0)),
        entities: insert('B', [41, 3], [42, 3], [50, 90], [70, 2], [71, 2], [44, 10], [45, 20]),
      }),
    );
    const places = seen(drawing).seen.map(({ at: [x, y] }) => [Math.round(x), Math.round(y)]);
    // Columns run along the turned x axis (up), rows along the turned y axis (left).
    expect(places.map((p) => p.map((v) => v + 0))).toEqual([
      [0, 0],
      [0, 10],
      [-20, 0],
      [-20, 10],
    ]);
  });

  it('are placed from the base point of their block', () => {
    const blocks = block('B', line(0, 0, 1, 0)).replace('10\n0\n20\n0\n', '10\n5\n20\n7\n');
    expect(seen(read(dxf({ blocks, entities: insert('B') })).drawing).seen[0]!.at).toEqual([-5, -7]);
  });

  it('that go round in a circle, or lead nowhere, are told', () => {
    const blocks = block('A', insert('B') + line(0, 0, 1, 1)) + block('B', insert('A'));
    const result = seen(read(dxf({ blocks, entities: insert('A') + insert('NONE') })).drawing);
    expect(result.seen).toHaveLength(1);
    expect(result.stops).toEqual([
      ['cycle', 'A'],
      ['missing-block', 'none'],
    ]);
  });

  it('may be nested ten thousand deep', () => {
    const deep = Array.from({ length: 10_000 }, (_, i) => block(`B${i}`, i ? insert(`B${i - 1}`) : line(0, 0, 1, 1)));
    const result = seen(read(dxf({ blocks: deep.join(''), entities: insert('B9999') })).drawing);
    expect(result.seen).toHaveLength(1);
    expect(result.stops).toEqual([]);
  });

  it('that multiply beyond all measure end with a word', () => {
    const ten = (name: string): string => insert(name).repeat(10);
    const bomb = Array.from({ length: 10 }, (_, i) =>
      block(`B${i}`, i ? ten(`B${i - 1}`) : line(0, 0, 1, 1).repeat(10)),
    );
    // Ten billion lines: none of them is looked at, and the line after them is shown.
    const { drawing } = read(dxf({ blocks: bomb.join(''), entities: insert('B9') + line(0, 0, 1, 1) }));
    const { seen: shown, stops } = seen(drawing);
    expect(stops).toEqual([['too-many', 'B9']]);
    expect(shown).toHaveLength(1);
  });

  it('in huge arrays end so too, and in large ones are shown', () => {
    const array = (side: number) =>
      read(
        dxf({
          blocks: block('B', line(0, 0, 1, 1)),
          entities: groups([0, 'INSERT'], [8, '0'], [2, 'B'], [10, 0], [20, 0], [70, side], [71, side]),
        }),
      ).drawing;
    expect(seen(array(100_000)).stops).toEqual([['too-many', 'B']]);
    expect(seen(array(100)).seen).toHaveLength(10_000);
  });
});
