import { PageBuilder, Path, svgOf, type Page, type PageText, type PathEntity } from '../../src/index';
import { readSvg } from '../../src/foreign';
import { FONTS } from '../support/fonts';

const TEXT: PageText = {
  ...{ text: 'A < B & "C"', font: 'sans', size: 5, a: 1, b: 0, c: 0, d: 1, x: 20, y: 40, advance: 30 },
};
const AROUND = { xmin: 20, ymin: 38, xmax: 50, ymax: 46 };

function line(x0: number, y0: number, x1: number, y1: number): Path {
  const path = new Path();
  path.moveTo(x0, y0);
  path.lineTo(x1, y1);
  return path;
}

function page(draw: (builder: PageBuilder) => void): Page {
  const builder = new PageBuilder(420, 297);
  draw(builder);
  return builder.build();
}

/** The SVG read again by the reader of drawings. */
function readBack(svg: string) {
  const read = readSvg(new TextEncoder().encode(svg), 'page.svg');
  if (!read.ok) throw new Error(read.problem.sentence);
  const { drawing, warnings } = read;
  return { drawing, warnings, entities: drawing.spaces[0]!.entities };
}

describe('a page as SVG', () => {
  it('has its true size, and lines where the page has them, weights and dashes in mm', () => {
    const { drawing, warnings, entities } = readBack(
      svgOf(
        page((builder) => {
          const pen = builder.pen(0.35, 0x123456, [3, 1.5], true, 50, { lineType: 'DASHED' });
          builder.stroke(line(10, 20, 110, 20.01), builder.layer('plan.dxf', 'A-WALL'), pen);
        }),
      ),
    );
    expect(warnings).toEqual([]);
    expect(drawing.spaces[1]!.plot!.paper).toEqual({ width: expect.closeTo(420, 9), height: expect.closeTo(297, 9) });
    // The first is the paper itself.
    const [, wall] = entities as PathEntity[];
    expect(wall!.width).toBeCloseTo(0.35, 9);
    expect(wall!.style.colour).toBe(0x123456);
    expect(drawing.layers[wall!.style.layer]!.name).toBe('plan.dxf: A-WALL');
    expect(drawing.lineTypes[wall!.style.lineType]!.dashes).toEqual([expect.closeTo(3, 9), expect.closeTo(-1.5, 9)]);
    const at = [...wall!.coords].map((value) => expect.closeTo(value, 9) as number);
    expect([10, 20, 110, 20.01]).toEqual(at);
  });

  it('switches off what is off', () => {
    const { drawing } = readBack(
      svgOf(
        page((builder) => {
          const pen = builder.pen(0.25, 0);
          builder.stroke(line(0, 0, 10, 10), builder.layer('', 'On'), pen);
          builder.stroke(line(0, 0, 10, 10), builder.layer('', 'Off', '', true), pen);
        }),
      ),
    );
    expect(drawing.layers.map(({ name, off }) => [name, off])).toEqual(
      expect.arrayContaining([
        ['On', false],
        ['Off', true],
      ]),
    );
  });

  it('has texts with signs that XML keeps for itself, as wide as on the page; unseen ones are found and not painted', () => {
    const texts = page((builder) => {
      const [layer, pen] = [builder.layer('', 'Notes'), builder.pen(0.25, 0)];
      builder.text(TEXT, AROUND, layer, pen);
      builder.text({ ...TEXT, text: 'found', unseen: true }, AROUND, layer, pen);
    });
    const svg = svgOf(texts, { title: 'A & B' });
    expect(svg).toContain('<title>A &amp; B</title>');
    expect(svg).toContain('textLength="3000" lengthAdjust="spacingAndGlyphs">A &lt; B &amp; &quot;C&quot;</text>');
    expect(svg).toMatch(/class="u"[^>]*>found<\/text>/);
    const outlined = svgOf(texts, { outlines: FONTS });
    expect(outlined).not.toContain('<text');
    expect(outlined.match(/<path/g)).toHaveLength(1);
  });

  it('clips by all areas that are open', () => {
    const svg = svgOf(
      page((builder) => {
        const [layer, pen] = [builder.layer('', 'Plan'), builder.pen(0.25, 0)];
        builder.clipTo({ xmin: 10, ymin: 10, xmax: 50, ymax: 50 });
        builder.clipToLoops([[10, 10, 50, 10, 30, 60]]);
        builder.stroke(line(0, 20, 100, 20), layer, pen);
        builder.endClip();
        builder.endClip();
        builder.stroke(line(0, 20, 100, 20), layer, pen);
      }),
    );
    expect(svg).toContain(
      '<clipPath id="c1-0"><path clip-rule="evenodd" d="M1000 28700H5000V24700H1000Z"/></clipPath>',
    );
    expect(svg).toContain(
      '<clipPath id="c1" clip-path="url(#c1-0)"><path clip-rule="evenodd" d="M1000 28700L5000 28700L3000 23700Z"/>',
    );
    // Only the first line is clipped.
    expect(svg.match(/<g clip-path/g)).toHaveLength(1);
    expect(svg.match(/<g /g)!.length).toBe(svg.match(/<\/g>/g)!.length);
  });

  it('places pictures upright and leaves out those that nobody has', () => {
    const made = page((builder) => {
      const layer = builder.layer('', 'Logo');
      for (const index of [0, 1]) {
        const picture = { kind: 'png' as const, drawing: 'd', index, page: 1 };
        builder.picture(picture, { a: 30, b: 0, c: 0, d: 20, e: 100, f: 50 }, layer);
      }
    });
    const svg = svgOf(made, { pictures: ['data:image/png;base64,AAAA'] });
    // From the upper left corner of the paper: 100 mm across, 297 - 50 - 20 = 227 mm down.
    expect(svg).toContain('transform="matrix(3000 0 0 2000 10000 22700)" xlink:href="data:image/png;base64,AAAA"');
    expect(svg.match(/<image/g)).toHaveLength(1);
  });
});
