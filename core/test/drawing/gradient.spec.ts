import fc from 'fast-check';
import {
  apply,
  axisOf,
  inkPage,
  inkBySchedule,
  mappedGradient,
  meanColour,
  PageBuilder,
  Path,
  rotation,
  type Gradient,
  type Page,
} from '../../src/index';
import { resizedPage } from '../../src/page/resize';

const RED_TO_BLUE = [
  { at: 0, colour: 0xff0000, opacity: 1 },
  { at: 1, colour: 0x0000ff, opacity: 1 },
];

/** A square of 10 mm at (20, 30), red at its left and blue at its right. */
function shadedPage(): Page {
  const gradient: Gradient = { map: { a: 10, b: 0, c: 0, d: 10, e: 20, f: 30 }, stops: RED_TO_BLUE };
  const builder = new PageBuilder(420, 297);
  const path = new Path();
  path.moveTo(20, 30);
  path.lineTo(30, 30);
  path.lineTo(30, 40);
  path.lineTo(20, 40);
  path.close();
  builder.fill(path, builder.layer('logo.svg', 'Page'), builder.pen(0, 0x7f007f, [], true, 100, { gradient }));
  return builder.build();
}

describe('a gradient', () => {
  it('has the mean of its colours along its length', () => {
    expect(meanColour({ stops: RED_TO_BLUE })).toBe(0x800080);
    const early = [RED_TO_BLUE[0]!, { ...RED_TO_BLUE[1]!, at: 0.5 }];
    expect(meanColour({ stops: early })).toBe(0x4000bf);
  });

  it('that a map slants still changes colour along its axis by as much', () => {
    const number = fc.double({ min: -5, max: 5, noNaN: true });
    fc.assert(
      fc.property(number, number, number, number, number, number, (turn, slant, along, across, t, far) => {
        const slanted = { a: along + 6, b: slant, c: slant / 3, d: across + 7, e: t, f: far };
        const map = mappedGradient({ map: slanted, stops: RED_TO_BLUE }, rotation(turn)).map;
        const [x0, y0, x1, y1] = axisOf(map);
        // A point at t along the gradient, wherever across it, lies at t between the two points of the axis.
        const [x, y] = apply(map, t, far);
        const [dx, dy] = [x1 - x0, y1 - y0];
        expect(((x - x0) * dx + (y - y0) * dy) / (dx * dx + dy * dy)).toBeCloseTo(t, 6);
      }),
    );
  });

  it('lies in page units, and goes with a page that is printed smaller', () => {
    const page = shadedPage();
    expect(page.pens[0]!.gradient!.map).toEqual({ a: 1000, b: 0, c: 0, d: 1000, e: 2000, f: 3000 });
    const half = resizedPage(page, { factor: 0.5, dx: 5, dy: 0, paper: { width: 210, height: 148.5 } });
    expect(half.pens[0]!.gradient!.map).toEqual({ a: 500, b: 0, c: 0, d: 500, e: 1500, f: 1500 });
  });

  it('is printed in greys, and all black in one colour', () => {
    const page = shadedPage();
    const grey = inkPage(page, 'greys').pens[0]!.gradient!.stops.map(({ colour }) => colour);
    // Luminance of red and blue (ITU-R BT.709), encoded as sRGB: 0.2126 is 127, 0.0722 is 76 of 255.
    expect(grey).toEqual([0x7f7f7f, 0x4c4c4c]);
    expect(inkPage(page, 'black').pens[0]).toEqual({ width: 0, colour: 0, dashes: [], round: true, opacity: 100 });
  });

  it('gives way to the colour of a pen schedule', () => {
    const page = shadedPage();
    const rule = (more: object) => inkBySchedule(page, { id: 's', name: 's', rules: [{ layer: 'Page', ...more }] });
    expect(rule({ colour: '#00ff00' }).pens[0]).toEqual({ ...page.pens[0], colour: 0x00ff00, gradient: undefined });
    // Even to its own mean.
    expect(rule({ colour: '#7f007f' }).pens[0]).not.toHaveProperty('gradient');
    // Half the ink of red and of blue.
    const pale = rule({ screen: 50 }).pens[0]!;
    expect(pale.gradient!.stops.map((stop) => stop.colour)).toEqual([0xff8080, 0x8080ff]);
    expect(pale.colour).toBe(0xbf80bf);
    expect(rule({ weight: 0.5 }).pens[0]!.gradient).toEqual(page.pens[0]!.gradient);
  });
});
