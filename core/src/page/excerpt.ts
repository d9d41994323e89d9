import { mappedGradient } from '../drawing/gradient';
import { translation } from '../geometry/affine';
import type { Box } from '../geometry/box';
import { markBoxes, markOrder } from './mark-boxes';
import { UNITS_PER_MM, type ClipShape, type Page } from './page';
import { pickMarks } from './pick';

/**
 * Part of a page put onto another, above what that one holds: the area (mm) comes to lie with its lower left corner at
 * `corner` of `onto` and nothing beyond it shows. Marks that lie wholly elsewhere are left out.
 */
export function excerpt(page: Page, area: Box, corner: readonly [number, number], onto: Page): Page {
  const [dx, dy] = [units(corner[0] - area.xmin), units(corner[1] - area.ymin)];
  const part = pickMarks(page, marksIn(page, area));
  for (let i = 0; i < part.coords.length; i++) part.coords[i]! += i % 2 === 0 ? dx : dy;
  const moved = (loop: readonly number[]): number[] => loop.map((value, i) => value + (i % 2 === 0 ? dx : dy));
  const edge: ClipShape = [moved([area.xmin, area.ymin, area.xmax, area.ymax].map(units))];
  const clips = part.clips.map((shapes) => [edge, ...shapes.map((shape) => shape.map(moved))]);
  // What was not clipped is clipped by the edge alone.
  const firstClip = onto.clips.length + 1;
  return {
    ...onto,
    layers: [...onto.layers, ...part.layers],
    pens: [
      ...onto.pens,
      ...part.pens.map((pen) =>
        pen.gradient ? { ...pen, gradient: mappedGradient(pen.gradient, translation(dx, dy)) } : pen,
      ),
    ],
    clips: [...onto.clips, [edge], ...clips],
    texts: [...onto.texts, ...part.texts.map((text) => ({ ...text, x: text.x + dx, y: text.y + dy }))],
    pictures: [...onto.pictures, ...part.pictures],
    placed: [
      ...onto.placed,
      ...part.placed.map((one) => ({
        ...one,
        picture: one.picture + onto.pictures.length,
        e: one.e + dx,
        f: one.f + dy,
      })),
    ],
    markCount: onto.markCount + part.markCount,
    kind: joined(onto.kind, part.kind),
    layer: joined(onto.layer, part.layer, onto.layers.length),
    pen: joined(onto.pen, part.pen, onto.pens.length),
    clip: joined(onto.clip, part.clip, firstClip),
    tag: new Uint32Array(0),
    ...joinedGroups(onto, part),
    verbStart: joined(onto.verbStart.subarray(0, onto.markCount), part.verbStart, onto.verbs.length),
    coordStart: joined(onto.coordStart.subarray(0, onto.markCount), part.coordStart, onto.coords.length),
    verbs: joined(onto.verbs, part.verbs),
    coords: joined(onto.coords, part.coords),
  };
}

/** The groups of both pages, those of the second one after those of the first. */
function joinedGroups(first: Page, second: Page): Pick<Page, 'group' | 'groups'> {
  const raise = first.groups.length;
  const raised = (index: number): number => (index > 0 ? index + raise : 0);
  const groups = second.groups.map(({ outer, mask, ...group }) => ({
    ...group,
    outer: raised(outer),
    ...(mask !== undefined && { mask: raised(mask) }),
  }));
  if (raise + groups.length === 0) return { group: new Uint32Array(0), groups: [] };
  const group = new Uint32Array(first.markCount + second.markCount);
  group.set(first.group);
  second.group.forEach((index, mark) => (group[first.markCount + mark] = raised(index)));
  return { group, groups: [...first.groups, ...groups] };
}

/** Two columns one behind the other, the second one's numbers raised. */
function joined<T extends Uint8Array | Uint16Array | Uint32Array | Int32Array>(first: T, second: T, raise = 0): T {
  const both = new (first.constructor as new (size: number) => T)(first.length + second.length);
  both.set(first);
  for (let i = 0; i < second.length; i++) both[first.length + i] = second[i]! + raise;
  return both;
}

/** Numbers of the marks that may show in an area (mm), their line widths counted in; `boxes` where they are known. */
export function marksIn(page: Page, area: Box, boxes = markBoxes(page, markOrder(page))): number[] {
  const [xmin, ymin, xmax, ymax] = [area.xmin, area.ymin, area.xmax, area.ymax].map(units) as [
    number,
    number,
    number,
    number,
  ];
  const kept: number[] = [];
  for (let mark = 0; mark < page.markCount; mark++) {
    const reach = page.pens[page.pen[mark]!]?.width ?? 0;
    const beyond =
      boxes[4 * mark]! - reach > xmax ||
      boxes[4 * mark + 1]! - reach > ymax ||
      boxes[4 * mark + 2]! + reach < xmin ||
      boxes[4 * mark + 3]! + reach < ymin;
    if (!beyond) kept.push(mark);
  }
  return kept;
}

function units(mm: number): number {
  return Math.round(mm * UNITS_PER_MM);
}
