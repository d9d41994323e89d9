import { readSvg } from '../../../src/foreign';
import { axisOf, visibleExtents, type Drawing, type PathEntity, type Problem } from '../../../src/index';
import { FONTS } from '../../support/fonts';

function read(text: string): { drawing: Drawing; warnings: Problem[] } {
  const result = readSvg(new TextEncoder().encode(text), 'x.svg');
  if (!result.ok) throw new Error(result.problem.sentence);
  return result;
}

const svg = (body: string, more = 'width="100mm" height="50mm" viewBox="0 0 100 50"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${more}>${body}</svg>`;

describe('the size of an SVG', () => {
  // CSS Values 3, 5.2: 1 in = 96 px = 25.4 mm.
  it.each([
    ['width="100mm" height="50mm" viewBox="0 0 100 50"', 10, 100, 50],
    ['width="960" height="480"', 96, 254, 127],
    ['width="10in" height="5in" viewBox="0 0 20 10"', 2, 254, 127],
    ['viewBox="0 0 960 480"', 96, 254, 127],
    ['width="254mm" viewBox="0 0 20 10"', 2, 254, 127],
  ])('%s', (attributes, side, width, height) => {
    const { drawing } = read(svg(`<rect width="${side}" height="${side}" fill="red"/>`, attributes));
    const { paper } = drawing.spaces[1]!.plot!;
    expect(paper.width).toBeCloseTo(width, 6);
    expect(paper.height).toBeCloseTo(height, 6);
    const box = visibleExtents(drawing, drawing.spaces[0]!.entities, FONTS)!;
    const mm =
      (width * side) / Number(/viewBox="0 0 (\d+)/.exec(attributes)?.[1] ?? /width="(\d+)"/.exec(attributes)![1]);
    expect(box.xmax - box.xmin).toBeCloseTo(mm, 6);
    // y runs upwards: what is at the top of the file is at the top of the paper.
    expect(box.ymax).toBeCloseTo(height, 6);
  });
});

describe('an SVG', () => {
  it('has its groups as layers, hidden ones switched off', () => {
    const { drawing } = read(
      svg('<g id="walls"><path d="M0 0h9"/></g><g aria-label="Doors" style="display:none"><path d="M0 1h9"/></g>'),
    );
    expect(drawing.layers.map(({ name, off }) => [name, off])).toEqual([
      ['Page', false],
      ['walls', false],
      ['Doors', true],
    ]);
  });

  it('keeps a thin line as thin as it is drawn, and its dashes', () => {
    const { drawing } = read(
      svg('<path d="M0 0h50" fill="none" stroke="#123456" stroke-width=".25" stroke-dasharray="3 1"/>'),
    );
    const [entity] = drawing.spaces[0]!.entities as [PathEntity];
    expect(entity.width).toBeCloseTo(0.25, 9);
    expect(entity.style.colour).toBe(0x123456);
    const [dash, gap] = drawing.lineTypes[entity.style.lineType]!.dashes;
    expect([dash, gap]).toEqual([expect.closeTo(3, 9), expect.closeTo(-1, 9)]);
  });

  it('has text at its place, anchored as stated, in the height of its em', () => {
    const { drawing } = read(
      svg(
        '<text x="10" y="20" font-size="5" text-anchor="middle">Quay <tspan font-weight="bold">wall</tspan><tspan x="10" y="30">−2.40</tspan></text>',
      ),
    );
    const texts = drawing.spaces[0]!.entities.map((entity) => (entity.kind === 'tilted' ? entity : undefined)!);
    expect(texts.map(({ entity, map }) => [entity.kind === 'text' && entity.lines[0], map.e, map.f])).toEqual([
      ['Quay wall', expect.closeTo(10, 9), expect.closeTo(30, 9)],
      ['−2.40', expect.closeTo(10, 9), expect.closeTo(20, 9)],
    ]);
    expect(texts[0]!.entity).toMatchObject({ horizontal: 'centre', height: 5, byEm: true });
  });

  it('has letters at the places of their own, and says what of a text is not followed', () => {
    const { drawing, warnings } = read(svg('<text x="1 5 9" y="9 8">ab<tspan>c d</tspan></text>'));
    const texts = drawing.spaces[0]!.entities.map((entity) => (entity.kind === 'tilted' ? entity : undefined)!);
    expect(texts.map(({ entity, map }) => [entity.kind === 'text' && entity.lines[0], map.e, map.f])).toEqual([
      ['a', 1, 41],
      ['b', 5, 42],
      ['c d', 9, 42],
    ]);
    expect(warnings).toEqual([]);
    const sentences = (text: string) => read(svg(text)).warnings.map(({ sentence }) => sentence);
    expect(sentences('<text>a<tspan dx="3">b</tspan></text>').join()).toContain('(dx, dy) are not followed');
    expect(sentences('<text>a<tspan fill="red">b</tspan></text>').join()).toContain('the style that it begins with');
    expect(sentences('<text rotate="30">a</text>').join()).toContain('set upright');
    expect(sentences('<text><textPath>a</textPath></text>').join()).toContain('on a straight line');
  });

  it('does not run what is active, fetch what is outside, or follow a doctype', () => {
    const { drawing, warnings } = read(
      `<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]>${svg(
        '<script>alert(1)</script><image href="http://example.com/a.png" width="9" height="9"/><use href="other.svg#a"/><foreignObject/><text x="1" y="9">&x;</text>',
      )}`,
    );
    expect(warnings.map(({ code }) => code)).toEqual(
      expect.arrayContaining(['svg.active', 'svg.picture', 'svg.reference', 'svg.faulty']),
    );
    expect(JSON.stringify(drawing.spaces[0]!.entities)).not.toContain('root:');
  });

  it('full of entities that multiply comes to nothing', () => {
    const levels = Array.from({ length: 12 }, (_, i) => `<!ENTITY e${i + 1} "${`&e${i};`.repeat(10)}">`).join('');
    const bomb = `<!DOCTYPE svg [<!ENTITY e0 "ha">${levels}]>${svg('<text x="1" y="9">&e12;</text>')}`;
    expect(JSON.stringify(read(bomb).drawing.spaces).length).toBeLessThan(5000);
  });

  it('whose references multiply stops at a limit and says so', () => {
    const levels = Array.from(
      { length: 9 },
      (_, i) => `<g id="u${i + 1}">${`<use href="#u${i}"/>`.repeat(10)}</g>`,
    ).join('');
    const { warnings } = read(svg(`<defs><g id="u0"><path d="M0 0h1"/></g>${levels}</defs><use href="#u9"/>`));
    expect(warnings.map(({ code }) => code)).toEqual(['svg.too-many']);
  });

  it('that refers to itself, or is nested ten thousand deep, is shown as far as that goes', () => {
    const circle = read(
      svg('<g id="a"><use href="#b"/><path d="M0 0h1" stroke="red"/></g><g id="b"><use href="#a"/></g>'),
    );
    expect(circle.warnings.map(({ code }) => code)).toContain('svg.cycle');
    const deep = read(svg(`${'<g>'.repeat(10_000)}<path d="M0 0h1"/>${'</g>'.repeat(10_000)}`));
    expect(deep.warnings.map(({ code }) => code)).toEqual(['svg.too-deep']);
  });

  it.each([
    [
      'numbers that are none',
      '<path d="M0 0 L NaN 1e999 L1e308 1e308" stroke="red"/><rect width="1e400" height="-5"/>',
    ],
    ['a broken end', '<path d="M0 0h5" stroke="red"/><g><'],
    ['a path of nothing', '<path d=""/><path d="M"/><path d="5 5"/><polygon points="1"/><circle r="-1"/>'],
  ])('with %s is read without throwing', (_what, body) => {
    const { drawing } = read(svg(body));
    expect(drawing.spaces).toHaveLength(2);
  });

  it.each([
    ['<html><body/></html>', 'begins with <html>'],
    ['< ', 'holds no SVG'],
  ])('that is %s is refused', (text, part) => {
    const result = readSvg(new TextEncoder().encode(text), 'x.svg');
    expect(result).toMatchObject({ ok: false, problem: { sentence: expect.stringContaining(part) as string } });
  });
});

describe('the alternatives of a switch', () => {
  const coloursOf = (body: string): { colours: number[]; codes: string[] } => {
    const { drawing, warnings } = read(svg(body));
    const colours = drawing.spaces[0]!.entities.map(({ style }) => style.colour);
    return { colours, codes: warnings.map(({ code }) => code) };
  };
  const red = '<path fill="red" d="M0 0h9v9z"/>';
  const blue = '<g><path fill="blue" d="M0 0h9v9z"/></g>';

  // SVG 2, 5.9: the first child whose conditions hold.
  it.each([
    ['the first one', `${red}${blue}`, 0xff0000],
    ['not what is for one program only', `<foreignObject requiredExtensions="x"><p/></foreignObject>${blue}`, 0x0000ff],
    ['not what needs an extension', `<g requiredExtensions="http://x">${red}</g>${blue}`, 0x0000ff],
    ['not what is in another language', `<g systemLanguage="de, fr">${red}</g>${blue}`, 0x0000ff],
    ['what is in English too', `<g systemLanguage="de, en-GB">${red}</g>${blue}`, 0xff0000],
  ])('show %s', (_, body, colour) => {
    expect(coloursOf(`<switch>\n${body}</switch>`)).toEqual({ colours: [colour], codes: [] });
  });

  it('are told where none can be shown', () => {
    expect(coloursOf('<switch><foreignObject><p/></foreignObject></switch>')).toEqual({
      colours: [],
      codes: ['svg.not-shown'],
    });
  });
});

describe('what is simplified', () => {
  const sentences = (body: string): string[] => read(svg(body)).warnings.map(({ sentence }) => sentence);
  const square = (fill: string): string => `<path fill="${fill}" d="M0 0h9v9z"/>`;

  it('is said: gradients on texts, fine patterns, filters, alpha masks', () => {
    const gradient =
      '<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient>';
    expect(sentences(`${gradient}${square('url(#g)')}`)).toEqual([]);
    expect(sentences(`${gradient}<text y="9" fill="url(#g)">a</text>`).join()).toContain('average colour');
    const pattern = '<pattern id="p" width=".001" height=".001"><path d="M0 0h1v1z"/></pattern>';
    expect(sentences(`${pattern}${square('url(#p)')}`).join()).toContain('grey tint');
    expect(sentences(`${pattern}<path stroke="url(#p)" d="M0 0h9"/>`).join()).toContain('grey tint');
    const masked = `<mask id="m" mask-type="alpha">${square('red')}</mask><g mask="url(#m)">${square('blue')}</g>`;
    expect(sentences(masked)).toEqual([expect.stringContaining('An alpha mask is not applied')]);
    expect(sentences(`<g filter="url(#f)">${square('red')}</g>`)).toEqual([expect.stringContaining('filter')]);
  });

  it('is nothing of what is see-through as a whole: one group where there are several parts, else its parts', () => {
    const groups = (body: string): unknown[] =>
      [...read(svg(body)).drawing.blocks.values()].flatMap(({ group }) => group ?? []);
    const pair = square('red') + square('blue');
    expect(groups(`<g opacity="0.5">${pair}</g>`)).toEqual([{ opacity: 50 }]);
    expect(groups(`<g opacity="0.5"><g>${pair}</g></g>`)).toEqual([{ opacity: 50 }]);
    expect(groups(`<g opacity="0.5"><g opacity="0.4">${pair}</g>${pair}</g>`).sort()).toEqual([
      { opacity: 40 },
      { opacity: 50 },
    ]);
    const symbol = `<symbol id="s">${pair}</symbol>`;
    for (const group of [`<svg opacity="0.5">${pair}</svg>`, `${symbol}<use opacity="0.5" href="#s"/>`]) {
      expect(groups(group)).toEqual([{ opacity: 50 }]);
    }
    expect(groups(`<path opacity=".5" fill="red" stroke="blue" d="M0 0h9v9z"/>`)).toEqual([{ opacity: 50 }]);
    for (const single of [
      `<g opacity="0.5"><g>${square('red')}</g></g>`,
      `<g opacity="1">${pair}</g>`,
      `<g opacity="0">${pair}</g>`,
    ]) {
      expect(groups(single)).toEqual([]);
    }
    const faded = read(svg(`<g opacity="0.5"><g>${square('red')}</g></g>`)).drawing.spaces[0]!.entities[0]!;
    expect(faded.style.opacity).toBe(50);
  });

  it('is nothing of masks; one that shows itself, or that is not there, is none', () => {
    const blocks = (body: string) => [...read(svg(body)).drawing.blocks.values()];
    const mask = `<mask id="m">${square('white')}</mask>`;
    expect(blocks(`${mask}<g mask="url(#m)">${square('red')}</g>`).map(({ group }) => group)).toEqual([
      'mask',
      { opacity: 100 },
    ]);
    expect(blocks(`<g mask="url(#gone)">${square('red')}</g>`)).toEqual([]);
    const itself = `<mask id="m"><g mask="url(#m)">${square('red')}</g></mask>`;
    expect(blocks(`${itself}<g mask="url(#m)">${square('red')}</g>`)).toHaveLength(2);
  });

  it('has colours in the old way and in the new one (CSS Color 4)', () => {
    const style = (fill: string) => read(svg(square(fill))).drawing.spaces[0]!.entities[0]!.style;
    for (const fill of ['hsl(120, 100%, 50%)', 'hsl(120 100% 50%)']) {
      expect(style(fill)).toMatchObject({ colour: 0x00ff00 });
      expect(style(fill).opacity).toBeUndefined();
    }
    for (const fill of ['hsla(120, 100%, 50%, 0.5)', 'hsl(120 100% 50% / 50%)']) {
      expect(style(fill)).toMatchObject({ colour: 0x00ff00, opacity: 50 });
    }
  });
});

describe('gradients and patterns of an SVG', () => {
  const gradientOf = (attributes: string, stops = '<stop stop-color="red"/><stop offset="1" stop-color="blue"/>') => {
    const gradient = `<linearGradient id="g" ${attributes}>${stops}</linearGradient>`;
    const { drawing } = read(svg(`${gradient}<rect x="10" y="20" width="40" height="10" fill="url(#g)"/>`));
    return (drawing.spaces[0]!.entities[0] as PathEntity).gradient;
  };

  it('lie where their shares of the box, or their units, say', () => {
    // From the left of the rectangle to its right; y runs upwards from the foot of the page, 50 high.
    const [x0, y0, x1, y1] = axisOf(gradientOf('')!.map);
    expect([x0, x1, y1 - y0]).toEqual([expect.closeTo(10, 9), expect.closeTo(50, 9), expect.closeTo(0, 9)]);
    const down = axisOf(gradientOf('gradientUnits="userSpaceOnUse" x1="0" y1="20" x2="0" y2="25"')!.map);
    expect([down[1], down[3]]).toEqual([expect.closeTo(30, 9), expect.closeTo(25, 9)]);
  });

  it('repeat and turn back over the whole shape', () => {
    const colours = (spread: string) =>
      gradientOf(`x2=".5" spreadMethod="${spread}"`)!.stops.map(({ at, colour }) => [at, colour]);
    const [red, blue] = [0xff0000, 0x0000ff];
    const ends = ([first, last]: number[], from: number, to: number) => [
      [from, first],
      [from, first],
      [to, last],
      [to, last],
    ];
    expect(colours('repeat')).toEqual([...ends([red, blue], 0, 0.5), ...ends([red, blue], 0.5, 1)]);
    expect(colours('reflect')).toEqual([...ends([red, blue], 0, 0.5), ...ends([blue, red], 0.5, 1)]);
  });

  it('repeat where the shape lies in a single repeat that is not the first', () => {
    const far = 'gradientUnits="userSpaceOnUse" x1="-100" x2="0" spreadMethod="reflect"';
    // Turned back from 0 on: blue at 0, red at 100.
    const { map, stops } = gradientOf(far)!;
    const [x0, , x1] = axisOf(map);
    expect([x0, x1]).toEqual([expect.closeTo(0, 9), expect.closeTo(100, 9)]);
    expect([stops[0]!.colour, stops.at(-1)!.colour]).toEqual([0x0000ff, 0xff0000]);
  });

  it('that repeat more often than can be seen are their mean colour', () => {
    const { drawing } = read(
      svg(`<linearGradient id="g" x2=".001" spreadMethod="repeat"><stop stop-color="red"/><stop offset="1" stop-color="blue"/>
      </linearGradient><rect width="40" height="10" fill="url(#g)"/>`),
    );
    const { gradient, style } = drawing.spaces[0]!.entities[0] as PathEntity;
    expect([gradient, style.colour]).toEqual([undefined, 0x800080]);
  });

  it('repeat far enough for the strokes that stand out of a shape', () => {
    const { drawing } = read(
      svg(`<linearGradient id="g" spreadMethod="repeat"><stop stop-color="red"/><stop offset="1" stop-color="blue"/>
      </linearGradient><rect x="10" y="20" width="40" height="10" fill="none" stroke="url(#g)" stroke-width="4"/>`),
    );
    const { map } = (drawing.spaces[0]!.entities[0] as PathEntity).gradient!;
    const [x0, , x1] = axisOf(map);
    expect([x0, x1]).toEqual([expect.closeTo(-30, 9), expect.closeTo(90, 9)]);
  });

  it('of one colour, or of no length, are that colour', () => {
    expect(gradientOf('', '<stop stop-color="red"/>')).toBeUndefined();
    expect(gradientOf('x1=".5" x2=".5"')).toBeUndefined();
  });

  it('fit the window of a pattern into its tile', () => {
    const pattern =
      '<pattern id="p" patternUnits="userSpaceOnUse" width="20" height="10" viewBox="0 0 10 10"><path d="M0 0h10v10h-10z"/></pattern>';
    const { drawing } = read(svg(`${pattern}<rect x="20" width="40" height="10" fill="url(#p)"/>`));
    const blocks = [...drawing.blocks.values()];
    const path = blocks.flatMap(({ entities }) => entities.flatMap((one) => (one.kind === 'path' ? one : [])))[0]!;
    // As large as the tile is high, in its middle.
    expect([...path.coords]).toEqual([5, 0, 15, 0, 15, 10, 5, 10].map((value) => expect.closeTo(value, 9) as number));
    const insert = blocks.flatMap(({ entities }) =>
      entities.flatMap((one) => (one.kind === 'tilted' ? one.entity : [])),
    );
    expect(insert).toMatchObject([{ kind: 'insert', columns: 2, rows: 1, columnSpacing: 20, x: 20 }]);
  });
});
