import fc from 'fast-check';
import {
  FILL,
  inkColour,
  inkPage,
  packPage,
  PageBuilder,
  paintPage,
  Path,
  unpackPage,
  type Canvas2D,
  type Page,
} from '../../src/index';
import { luminance } from '../../src/pens/ink';
import { FONTS } from '../support/fonts';

function square(x: number, y: number, size: number): Path {
  const path = new Path();
  path.moveTo(x, y);
  path.lineTo(x + size, y);
  path.lineTo(x + size, y + size);
  path.close();
  return path;
}

function samplePage(): Page {
  const builder = new PageBuilder(420, 297);
  const layer = builder.layer('plan.dxf', 'A-WALL');
  builder.stroke(square(10, 10, 20), layer, builder.pen(0.5, 0xff0000));
  builder.clipTo({ xmin: 0, ymin: 0, xmax: 15, ymax: 15 });
  builder.fill(square(10, 10, 20), layer, builder.pen(0, 0x00ff00));
  const text = { text: 'Café', font: 'sans', size: 3.5, a: 1, b: 0, c: 0, d: 1, x: 5, y: 5, advance: 12 } as const;
  builder.text(text, { xmin: 5, ymin: 5, xmax: 17, ymax: 9 }, builder.layer('', 'Notes'), builder.pen(0, 0));
  return builder.build();
}

describe('a clip by loops', () => {
  const clipped = (loops: number[][]): Page => {
    const builder = new PageBuilder(100, 100);
    builder.clipToLoops(loops);
    const path = new Path();
    path.moveTo(0, 0);
    path.lineTo(50, 50);
    builder.stroke(path, builder.layer('', 'x'), builder.pen(0.25, 0));
    builder.endClip();
    return builder.build();
  };

  it('shows what its loops enclose', () => {
    expect(clipped([[0, 0, 60, 0, 0, 60]]).clips).toEqual([[[[0, 0, 6000, 0, 0, 6000]]]]);
  });

  it('of two points encloses nothing, and is not taken for a rectangle', () => {
    expect(clipped([[10, 10, 40, 40]]).markCount).toBe(0);
  });
});

describe('building a page', () => {
  it('counts in whole hundredths of a millimetre', () => {
    const page = samplePage();
    expect([...page.coords.subarray(0, 6)]).toEqual([1000, 1000, 3000, 1000, 3000, 3000]);
    expect(page.pens[0]).toMatchObject({ width: 50, colour: 0xff0000 });
    expect(page.texts[0]).toMatchObject({ size: 350, x: 500, advance: 1200 });
  });

  it('clips only what crosses the clip, and leaves out what misses it', () => {
    const builder = new PageBuilder(100, 100);
    builder.clipTo({ xmin: 0, ymin: 0, xmax: 50, ymax: 50 });
    for (const at of [10, 45, 60]) builder.stroke(square(at, at, 10), 0, builder.pen(0.1, 0));
    expect([...builder.build().clip]).toEqual([0, 1]);
  });

  it('needs no clip that is a rectangle around a mark, whatever is open around it', () => {
    const builder = new PageBuilder(100, 100);
    builder.clipTo({ xmin: 0, ymin: 0, xmax: 50, ymax: 50 });
    builder.clipToLoops([[5, 5, 45, 5, 45, 45, 5, 45]]);
    for (const at of [10, 40]) builder.stroke(square(at, at, 10), 0, builder.pen(0.1, 0));
    builder.clipToLoops([[0, 0, 40, 0, 0, 40]]);
    builder.stroke(square(10, 10, 2), 0, builder.pen(0.1, 0));
    expect([...builder.build().clip]).toEqual([0, 1, 2]);
  });

  it('clips the tip of a mitre that stands out of the clip', () => {
    const builder = new PageBuilder(100, 100);
    builder.clipTo({ xmin: 0, ymin: 0, xmax: 50, ymax: 50 });
    const spike = new Path();
    spike.moveTo(20, 20);
    spike.lineTo(49, 21);
    spike.lineTo(20, 22);
    for (const round of [true, false]) builder.stroke(spike, 0, builder.pen(1, 0, [], round));
    expect([...builder.build().clip]).toEqual([0, 1]);
  });

  it('tells any number of pens and clips apart', () => {
    const builder = new PageBuilder(100, 100);
    const many = 66_000;
    const path = square(0, 0, 10);
    for (let i = 0; i < many; i++) {
      builder.clipTo({ xmin: 0, ymin: 0, xmax: 5, ymax: 5 });
      builder.stroke(path, 0, builder.pen(0.1, i));
      builder.endClip();
    }
    const page = unpackPage(packPage(builder.build()));
    expect([page.pen[many - 1], page.clip[many - 1]]).toEqual([many - 1, many]);
    expect(page.pens[page.pen[many - 1]!]!.colour).toBe(many - 1);
  });

  it('cuts what reaches beyond the range of whole numbers', () => {
    const builder = new PageBuilder(100, 100);
    const path = new Path();
    path.moveTo(50, 50);
    path.lineTo(5e9, 50);
    builder.stroke(path, 0, builder.pen(0.1, 0));
    expect([...builder.build().coords]).toEqual([5000, 5000, 5_010_000, 5000]);
  });

  it('shares pens that draw the same', () => {
    const builder = new PageBuilder(10, 10);
    expect(builder.pen(0.25, 0)).toBe(builder.pen(0.2500001, 0));
    expect(builder.pen(0.25, 0, [1, 2])).not.toBe(builder.pen(0.25, 0));
  });
});

describe('packing', () => {
  it('gives back the page, whatever the alignment of the bytes', () => {
    const page = samplePage();
    const packed = packPage(page);
    expect(unpackPage(packed)).toEqual(page);
    const shifted = new Uint8Array(packed.length + 1);
    shifted.set(packed, 1);
    expect(unpackPage(shifted.subarray(1))).toEqual(page);
  });

  it('refuses other bytes', () => {
    expect(() => unpackPage(new Uint8Array(100))).toThrow('not a packed page');
  });
});

describe('inking', () => {
  // ITU-R BT.709 luminance of the sRGB primaries: 0.2126, 0.7152, 0.0722.
  it('weighs colours as BT.709 does', () => {
    expect(luminance(0xff0000)).toBeCloseTo(0.2126, 4);
    expect(luminance(0x00ff00)).toBeCloseTo(0.7152, 4);
    expect(luminance(0x0000ff)).toBeCloseTo(0.0722, 4);
    // sRGB 0xBC encodes linear 0.5 (IEC 61966-2-1): 188 of 255.
    expect(luminance(0xbcbcbc)).toBeCloseTo(0.5, 2);
  });

  it('turns greys into themselves and keeps them apart', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 255 }), (v) => {
        const grey = (v << 16) | (v << 8) | v;
        expect(inkColour(grey, 'greys')).toBe(grey);
      }),
    );
  });

  it('makes all black but white and near white', () => {
    // Yellow, the lightest of the usual line colours, must not vanish.
    for (const colour of [0x000000, 0x7f7f7f, 0xffff00, 0x00ffff, 0xff0000]) expect(inkColour(colour, 'black')).toBe(0);
    for (const colour of [0xffffff, 0xf5f3f0]) expect(inkColour(colour, 'black')).toBe(0xffffff);
  });

  it('changes the pens alone', () => {
    const page = samplePage();
    const inked = inkPage(page, 'black');
    expect(inked.coords).toBe(page.coords);
    expect(inked.pens.map(({ colour }) => colour)).toEqual([0, 0, 0]);
    expect(inked.pens[0]!.width).toBe(50);
  });
});

describe('painting on a canvas', () => {
  const groupCanvas = (): never => {
    throw new Error('the page has no groups');
  };

  it('asks for what the page says, in page units under one matrix', () => {
    const calls: string[] = [];
    const canvas = new Proxy({} as Record<string, unknown>, {
      get:
        (_, name) =>
        (...args: unknown[]) => {
          calls.push(`${String(name)}(${args.map(String).join()})`);
          return { width: 50 };
        },
      set: (_, name, value) => calls.push(`${String(name)}=${String(value)}`) > 0,
    });
    const familyOf = (font: string): string => font.slice(0, 1).toUpperCase();
    paintPage(canvas as unknown as Canvas2D, samplePage(), 2, { groupCanvas, letters: { familyOf } });
    expect(calls).toContain('setTransform(0.02,0,0,-0.02,0,594)');
    expect(calls).toContain('lineWidth=50');
    expect(calls).toContain('moveTo(1000,1000)');
    expect(calls).toContain('rect(0,0,1500,1500)');
    expect(calls).toContain('fill(evenodd)');
    expect(calls).toContain('fillText(\u202dCafé,0,0)');
    // Measured 50 where the page says 1200 units: the browser's own width does not count.
    expect(calls.some((call) => call.startsWith('setTransform(0.48,0,0,0.07,'))).toBe(true);
    expect(calls.filter((call) => call === 'save()')).toHaveLength(calls.filter((call) => call === 'restore()').length);
    // A pixel that the paper only partly covers is filled too.
    calls.length = 0;
    paintPage(canvas as unknown as Canvas2D, new PageBuilder(100.2, 50.7).build(), 2, {
      groupCanvas,
      letters: { familyOf },
    });
    expect(calls).toContain('fillRect(0,0,201,102)');
    // As outlines the letters of the canvas have no say.
    calls.length = 0;
    paintPage(canvas as unknown as Canvas2D, samplePage(), 2, { groupCanvas, letters: { outlines: FONTS } });
    expect(calls.filter((call) => /^(fillText|measureText|font=)/.test(call))).toEqual([]);
    expect(calls).toContain('fill(nonzero)');
    expect(calls.filter((call) => call.startsWith('quadraticCurveTo(')).length).toBeGreaterThan(20);
  });

  it('knows fills from strokes', () => {
    expect([...samplePage().kind]).toEqual([0, FILL, 2]);
  });
});
