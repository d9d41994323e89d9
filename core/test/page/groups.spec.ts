import {
  inkBySchedule,
  inkPage,
  letteringFacts,
  marksOutside,
  packPage,
  PageBuilder,
  Path,
  svgOf,
  unpackPage,
  type Page,
  type PenSchedule,
} from '../../src/index';
import { visitGroups, withoutGroups } from '../../src/page/groups';
import { excerpt } from '../../src/page/excerpt';
import { FONTS } from '../support/fonts';

const square = (x: number): Path => {
  const path = new Path();
  path.moveTo(x, 10);
  path.lineTo(x + 10, 10);
  path.lineTo(x + 10, 20);
  path.close();
  return path;
};

/** Plain, then a half transparent group of one mark, a group within it that is masked, and one more; then plain again. */
function grouped(): Page {
  const builder = new PageBuilder(100, 100);
  const layer = builder.layer('plan.dxf', 'A');
  const draw = (x: number, colour = 0xff0000, opacity = 100): void => {
    builder.fill(square(x), layer, builder.pen(0, colour, [], true, opacity));
  };
  draw(0);
  builder.beginGroup(50);
  draw(10);
  builder.beginGroup(100);
  builder.beginMask();
  draw(20, 0x808080);
  builder.endMask();
  draw(30, 0xff0000, 40);
  builder.endGroup();
  draw(40);
  builder.endGroup();
  draw(50);
  return builder.build();
}

/** The groups of a page with their marks, nested. */
function tree(page: Page, marks: number[], around = 0): unknown[] {
  const found: unknown[] = [];
  visitGroups(page, marks, [0, marks.length], around, {
    mark: (mark) => found.push(mark),
    group: (group, from, to) => found.push(tree(page, marks.slice(from, to), group)),
  });
  return found;
}

describe('groups of a page', () => {
  const all = (page: Page): number[] => Array.from({ length: page.markCount }, (_, i) => i);

  it('nest, and have their masks among their marks', () => {
    const page = grouped();
    expect(page.groups).toEqual([
      { outer: 0, opacity: 50 },
      { outer: 1, opacity: 100, mask: 3 },
      { outer: 2, opacity: 100 },
    ]);
    expect(tree(page, all(page))).toEqual([0, [1, [[2], 3], 4], 5]);
    expect(tree(page, [0, 3, 5])).toEqual([0, [[3]], 5]);
  });

  it('go with a page that is packed, and with a part of it that is put onto another', () => {
    const page = grouped();
    const unpacked = unpackPage(packPage(page));
    expect([unpacked.groups, [...unpacked.group]]).toEqual([page.groups, [...page.group]]);
    const area = { xmin: 5, ymin: 0, xmax: 100, ymax: 100 };
    const both = excerpt(page, area, [0, 0], grouped());
    expect(tree(both, all(both))).toEqual([0, [1, [[2], 3], 4], 5, 6, [7, [[8], 9], 10], 11]);
    const onto = excerpt(page, area, [0, 0], new PageBuilder(100, 100).build());
    expect(tree(onto, all(onto))).toEqual([0, [1, [[2], 3], 4], 5]);
  });

  it('have masks that count neither as drawn nor as lettering nor as over the edge', () => {
    const builder = new PageBuilder(100, 100);
    const layer = builder.layer('plan.dxf', 'A');
    const hair = builder.pen(0.01, 0xffffff, [], true, 100);
    builder.beginGroup(100);
    builder.beginMask();
    builder.stroke(square(95), layer, hair);
    builder.endMask();
    builder.fill(square(30), layer, builder.pen(0, 0, [], true, 100));
    builder.endGroup();
    const page = builder.build();
    expect(letteringFacts(page, FONTS)).toMatchObject({ drawn: 1 });
    expect(letteringFacts(page, FONTS).thinnest).toBeUndefined();
    expect(marksOutside(page, { xmin: 0, ymin: 0, xmax: 100, ymax: 100 }).count).toBe(0);
    expect(marksOutside(page, { xmin: 0, ymin: 0, xmax: 35, ymax: 100 }).count).toBe(1);
  });

  it('hide what they hold in SVG where their mask has no marks on the page', () => {
    const builder = new PageBuilder(100, 100);
    builder.beginGroup(100);
    builder.beginMask();
    builder.endMask();
    builder.fill(square(30), builder.layer('plan.dxf', 'A'), builder.pen(0, 0, [], true, 100));
    builder.endGroup();
    const svg = svgOf(builder.build());
    const [, id] = /mask="url\(#(\w+)\)"/.exec(svg)!;
    expect(svg).toContain(`<mask id="${id}"/>`);
  });

  it('are left out for formats without them: opacities multiplied, masks gone', () => {
    const page = withoutGroups(grouped());
    expect([...page.kind].length).toBe(5);
    expect(Array.from(page.pen, (pen) => page.pens[pen]!.opacity)).toEqual([100, 50, 20, 50, 100]);
    expect(page.group).toHaveLength(0);
  });

  it('have masks that are no ink: neither recipes nor schedules change them', () => {
    const schedule: PenSchedule = { id: 's', name: '', rules: [{ layer: '*', colour: '#00ff00', weight: 1 }] };
    for (const page of [inkPage(grouped(), 'black'), inkBySchedule(grouped(), schedule, { least: 3 })]) {
      const colours = Array.from(page.pen, (pen) => page.pens[pen]!.colour);
      expect(colours[2]).toBe(0x808080);
      expect(new Set(colours.filter((_, mark) => mark !== 2)).size).toBe(1);
      expect(colours[0]).not.toBe(0xff0000);
    }
  });
});
