import { zipSync } from 'fflate';
import { PageBuilder, Path, type Page } from '@folvex/core';
import {
  cssTransform,
  moved,
  pixelOf,
  placeAt,
  fitToBox,
  zoomAt,
} from '../../../src/places/gather/drawing/drawing-viewport';
import { MarkFinder } from '../../../src/engine/mark-finder';
import { unpacked } from '../../../src/state/drawings/unpack';

describe('an outlook on a drawing', () => {
  const outlook = fitToBox([0, 0, 200, 100], 800, 800, 1);

  it('shows a box whole and in the middle', () => {
    expect(outlook).toMatchObject({ x: 100, y: 50, scale: 4 });
    expect(pixelOf(outlook, 0, 100)).toEqual([0, 200]);
    expect(placeAt(outlook, 800, 600)).toEqual([200, 0]);
  });

  it('zooms about what is under the pointer', () => {
    const under = placeAt(outlook, 123, 456);
    const near = zoomAt(outlook, 3, 123, 456);
    expect(near.scale).toBe(12);
    expect(pixelOf(near, ...under).map((px) => Math.round(px * 1e6) / 1e6)).toEqual([123, 456]);
  });

  it('moves with the hand', () => {
    const [px, py] = pixelOf(moved(outlook, 30, -20), 100, 50);
    expect([px, py]).toEqual([430, 380]);
  });

  it('moves the picture painted last to where the next will be', () => {
    expect(cssTransform(outlook, outlook, 1)).toBe('translate(0px, 0px) scale(1)');
    expect(cssTransform(outlook, zoomAt(outlook, 2, 0, 0), 2)).toBe('translate(0px, 0px) scale(2)');
    expect(cssTransform(outlook, moved(outlook, 40, 10), 2)).toBe('translate(20px, 5px) scale(1)');
  });
});

function page(): Page {
  const builder = new PageBuilder(100, 100);
  const draw = (tag: number, layer: string, ...points: [number, number][]): void => {
    const path = new Path();
    points.forEach(([x, y], i) => (i === 0 ? path.moveTo(x, y) : path.lineTo(x, y)));
    builder.comesFrom(tag);
    builder.stroke(path, builder.layer('x.dxf', layer), builder.pen(0.25, 0));
  };
  draw(7, 'A', [10, 10], [50, 10]);
  draw(8, 'B', [10, 12], [50, 12], [50, 40]);
  draw(8, 'B', [80, 80], [90, 90]);
  return builder.build();
}

describe('marks', () => {
  const finder = new MarkFinder(page());

  it('are found by what is drawn of them, not by their box', () => {
    expect(finder.nearest(30, 10.4, 1, [])).toBe(0);
    expect(finder.nearest(30, 30, 5, [])).toBeUndefined();
    expect(finder.nearest(49.5, 30, 1, [])).toBe(1);
  });

  it('on hidden layers are not found', () => {
    expect(finder.nearest(30, 10.4, 3, [0])).toBe(1);
    expect([...finder.within([0, 0, 100, 100], [1])]).toEqual([0]);
  });

  it('that a box touches come in painting order', () => {
    expect([...finder.within([0, 0, 100, 100], [])]).toEqual([0, 1, 2]);
    expect([...finder.within([70, 70, 95, 95], [])]).toEqual([2]);
  });

  it('of one entity have one box', () => {
    expect([...finder.ofTag(8)]).toEqual([1, 2]);
    expect(finder.boxOfTag(8)).toEqual([10, 12, 90, 90]);
  });

  it('give the end of a line that is near', () => {
    expect(finder.vertex(49.7, 39.8, 1, [])).toEqual([50, 40]);
    expect(finder.vertex(30, 10, 1, [])).toBeUndefined();
  });
});

describe('dropped files', () => {
  // jsdom's files lack what browsers' have.
  const file = (name: string, content: Uint8Array | string, path = ''): File => {
    const made = new File([content as string], name);
    Object.defineProperty(made, 'webkitRelativePath', { value: path });
    if (typeof content !== 'string') made.arrayBuffer = () => Promise.resolve(content.slice().buffer as ArrayBuffer);
    return made;
  };

  it('are taken as they are; of folders, the drawings only', async () => {
    const { files, leftOut } = await unpacked([
      file('odd.xyz', 'x'),
      file('plan.DXF', 'x', 'set/plan.DXF'),
      file('mail.txt', 'x', 'set/mail.txt'),
    ]);
    expect(files.map(({ name }) => name)).toEqual(['odd.xyz', 'plan.DXF']);
    expect(leftOut).toEqual([{ name: 'mail.txt', why: 'not a drawing' }]);
  });

  it('that are archives are opened; a broken one is named', async () => {
    const text = (words: string): Uint8Array => Uint8Array.from(words, (c) => c.charCodeAt(0));
    const zip = zipSync({ 'a/one.dxf': text('1'), 'a/two.svg': text('2'), 'a/notes.md': text('3') });
    const { files, leftOut } = await unpacked([file('set.zip', zip), file('bad.zip', text('nothing'))]);
    expect(files.map(({ name }) => name)).toEqual(['one.dxf', 'two.svg']);
    expect(leftOut).toEqual([
      { name: 'notes.md (in set.zip)', why: 'not a drawing' },
      { name: 'bad.zip', why: 'not a ZIP archive' },
    ]);
  });

  it('that an archive states to be too large are left out, and said to be', async () => {
    const zip = zipSync({ 'one.dxf': [Uint8Array.of(48), { level: 0 }] });
    const view = new DataView(zip.buffer);
    // The uncompressed size in the central directory (PKWARE APPNOTE 4.3.12).
    const at = [...zip.keys()].find((i) => view.getUint32(i, true) === 0x02014b50)!;
    view.setUint32(at + 24, 0x7fff_ffff, true);
    const { files, leftOut } = await unpacked([file('set.zip', zip)]);
    expect([files, leftOut]).toEqual([[], [{ name: 'one.dxf (in set.zip)', why: 'too large' }]]);
  });
});
