import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import {
  inkBySchedule,
  inkPage,
  luminance,
  PageBuilder,
  Path,
  textAdvance,
  writePart,
  type LinkLook,
  type MeasuredArea,
  type PlannedFile,
  type Recipe,
  type Sheet,
  type SheetPackage,
} from '@folvex/core';
import { assembleFile, lockFor, pdfTools, protectionOf, shippedFonts } from '../src/index';
import { ownFolder, tool } from './published';

const folder = ownFolder();
const MM_PER_POINT = 25.4 / 72;
const PROJECT = { number: '1', name: 'P', client: '', fields: {} };

/** A page with texts in a column from 20, 200 downwards. */
function pageWith(texts: string[]) {
  const builder = new PageBuilder(420, 297);
  texts.forEach((text, i) => {
    const advance = textAdvance(shippedFonts(), 'sans', text) * 5;
    const y = 200 - 10 * i;
    const placed = { text, font: 'sans' as const, size: 5, a: 1, b: 0, c: 0, d: 1, x: 20, y, advance };
    builder.text(
      placed,
      { xmin: 20, ymin: y, xmax: 20 + advance, ymax: y + 5 },
      builder.layer('', 'Notes'),
      builder.pen(0, 0),
    );
  });
  return builder.build();
}

const sheet = (id: string, number: string, group = ''): Sheet => ({
  id,
  number,
  title: `Sheet ${id}`,
  group,
  paper: undefined,
  frame: 'none',
  titleBlock: undefined,
  revision: undefined,
  views: [],
});

interface Wanted {
  sheets: { sheet: Sheet; texts: string[]; measured?: MeasuredArea[] }[];
  files: { path: string; sheets: string[] }[];
  recipe?: Pick<Recipe, 'links' | 'version'>;
  protection?: ReturnType<typeof protectionOf>;
}

/** Writes files of sheets into the folder; returns their paths. */
async function written({ sheets, files, recipe = {}, protection }: Wanted): Promise<string[]> {
  const tools = await pdfTools();
  const pack: SheetPackage = {
    id: 'p',
    name: 'Permit',
    recipe: '',
    order: [],
    bundling: 'one',
    names: { file: '', folder: '', bundle: '' },
  };
  const planned = files.map((file): PlannedFile => ({ ...file, wanted: file.path, blank: [], unknown: [] }));
  return planned.map((file) => {
    const chunks: Uint8Array[] = [];
    assembleFile(
      {
        project: PROJECT,
        package: pack,
        sheets: sheets.map((one) => one.sheet),
        plan: { files: planned, sheets: sheets.map((one) => one.sheet) },
        groups: [
          { id: 'g', name: 'Plans' },
          { id: 'h', name: 'Details' },
        ],
        recipe,
        ...(protection && { protection }),
        file,
        partHash: (id) => id,
        parts: (id) => {
          const { texts, measured = [] } = sheets.find((one) => one.sheet.id === id)!;
          return [writePart(pageWith(texts), tools.fonts, true, tools.deflate, { measured })];
        },
      },
      tools,
      { write: (bytes) => chunks.push(bytes.slice()) },
    );
    const path = join(folder, file.path);
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, Buffer.concat(chunks));
    return path;
  });
}

interface Link {
  rect: number[];
  dest?: unknown[];
  url?: string;
  unsafeUrl?: string;
}

async function linksOf(path: string, page: number, password = ''): Promise<Link[]> {
  const document = await getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0, password }).promise;
  return (await (await document.getPage(page)).getAnnotations()) as Link[];
}

describe('links', () => {
  const texts = ['See 3/A-501 and a-201.', 'https://example.org/plan', 'A-999, 3600 wide', 'A-101'];
  const sheets = [
    { sheet: sheet('a', 'A-101'), texts },
    { sheet: sheet('b', 'A-201'), texts: ['Elevation'] },
    { sheet: sheet('c', 'A-501'), texts: ['Details'] },
  ];

  it('lead to the pages of one file, and to addresses; not to the page itself, nor to what is no sheet', async () => {
    const [path] = await written({ sheets, files: [{ path: 'one.pdf', sheets: ['a', 'b', 'c'] }] });
    const links = await linksOf(path!, 1);
    expect(links).toHaveLength(3);
    const document = await getDocument({ data: new Uint8Array(readFileSync(path!)), verbosity: 0 }).promise;
    const pages = [];
    for (const { dest } of links) {
      if (dest) pages.push(await document.getPageIndex(dest[0] as Parameters<typeof document.getPageIndex>[0]));
    }
    expect(pages).toEqual([2, 1]);
    expect(links.map(({ url, unsafeUrl }) => url ?? unsafeUrl).filter(Boolean)).toEqual(['https://example.org/plan']);
    // "3/A-501" begins behind "See ", at 20 mm and its width.
    const before = textAdvance(shippedFonts(), 'sans', 'See ') * 5;
    expect(links[0]!.rect[0]! * MM_PER_POINT).toBeCloseTo(20 + before, 1);
    expect(links[0]!.rect[1]! * MM_PER_POINT).toBeCloseTo(198.75, 1);
  });

  it('lead to other files by their final names, from folder to folder', async () => {
    const files = [
      { path: 'plans/A-101.pdf', sheets: ['a'] },
      { path: 'details/set.pdf', sheets: ['b', 'c'] },
    ];
    const [path] = await written({ sheets, files });
    const text = tool('qpdf', '--qdf', '--object-streams=disable', path!, '-');
    const targets = [...text.matchAll(/\/D \[\s*(\d+)\s*\/Fit\s*\][\s\S]*?\/UF \(([^)]*)\)/g)].map(([, page, file]) => [
      file,
      Number(page),
    ]);
    expect(targets).toEqual([
      ['../details/set.pdf', 1],
      ['../details/set.pdf', 0],
    ]);
    expect(text).toContain('/S /GoToR');
  });

  it.each<[LinkLook | 'plain', string]>([
    ['plain', '/Border [ 0 0 0 ]'],
    ['underlined', '/S /U'],
    ['tinted', '/AP'],
  ])('look %s', async (links, mark) => {
    const [path] = await written({
      sheets,
      files: [{ path: `${links}.pdf`, sheets: ['a', 'b', 'c'] }],
      recipe: { links },
    });
    const text = tool('qpdf', '--qdf', '--object-streams=disable', path!, '-').replace(/\s+/g, ' ');
    expect(text.slice(text.indexOf('/Subtype /Link') - 400)).toContain(mark);
  });

  it('are not there where a recipe wants none', async () => {
    const [path] = await written({
      sheets,
      files: [{ path: 'none.pdf', sheets: ['a', 'b'] }],
      recipe: { links: 'none' },
    });
    expect(await linksOf(path!, 1)).toEqual([]);
  });
});

describe('the outline', () => {
  it('has groups, their sheets, and views where a sheet has several', async () => {
    const area = (name: string, x: number): MeasuredArea => ({
      name,
      box: [x, 10, x + 50, 60],
      scale: 0.02,
      words: '1:50',
      unit: 'm',
    });
    const sheets = [
      { sheet: sheet('a', 'A-101', 'g'), texts: ['x'], measured: [area('Plan', 10), area('Stair', 100)] },
      { sheet: sheet('b', 'A-102', 'g'), texts: ['y'], measured: [area('Plan', 10)] },
      { sheet: sheet('c', 'A-501', 'h'), texts: ['z'] },
    ];
    const [path] = await written({ sheets, files: [{ path: 'outline.pdf', sheets: ['a', 'b', 'c'] }] });
    const document = await getDocument({ data: new Uint8Array(readFileSync(path!)), verbosity: 0 }).promise;
    type Item = Awaited<ReturnType<typeof document.getOutline>>[number];
    const tree = (items: Item[]): unknown[] => items.map((item) => [item.title, ...tree(item.items as Item[])]);
    expect(tree(await document.getOutline())).toEqual([
      ['Plans', ['A-101  Sheet a', ['Plan'], ['Stair']], ['A-102  Sheet b']],
      ['Details', ['A-501  Sheet c']],
    ]);
  });
});

describe('measuring', () => {
  it('gives the known length in metres and feet by the dictionary of each view (ISO 32000-2, 12.9)', async () => {
    const measured: MeasuredArea[] = [
      { name: 'Plan', box: [30, 40, 230, 140], scale: 1 / 50, words: '1:50', unit: 'm' },
      { name: 'Site', box: [250, 40, 400, 140], scale: 1 / 96, words: `1/8" = 1'-0"`, unit: 'ft' },
    ];
    const [path] = await written({
      sheets: [{ sheet: sheet('a', 'A-101'), texts: ['x'], measured }],
      files: [{ path: 'm.pdf', sheets: ['a'] }],
    });
    const objects = (
      JSON.parse(tool('qpdf', '--json', path!)) as {
        qpdf: [unknown, Record<string, { value?: Record<string, unknown> }>];
      }
    ).qpdf[1];
    const page = Object.values(objects).find(({ value }) => value?.['/Type'] === '/Page')!.value!;
    const areas = page['/VP'] as {
      '/BBox': number[];
      '/Measure': { '/R': string; '/X': { '/C': number; '/U': string }[] };
    }[];
    expect(areas).toHaveLength(2);
    // 100 mm on paper: 5 m at 1:50; 9600 mm at 1:96, 31.4961 ft.
    const real = (i: number): number => (100 / MM_PER_POINT) * areas[i]!['/Measure']['/X'][0]!['/C'];
    expect(real(0)).toBeCloseTo(5, 6);
    expect(real(1)).toBeCloseTo(9600 / 304.8, 6);
    expect(areas.map((area) => area['/Measure']['/X'][0]!['/U'])).toEqual(['u:m', 'u:ft']);
    expect(areas[0]!['/BBox'].map((point) => Math.round(point * MM_PER_POINT * 100) / 100)).toEqual([30, 40, 230, 140]);
  });
});

describe('protection', () => {
  const sheets = [{ sheet: sheet('a', 'A-101'), texts: ['Secret hall'] }];
  const files = [{ path: 'locked.pdf', sheets: ['a'] }];
  const allowed = { print: true, change: false, copy: false };

  it('opens with the right password and refuses the wrong one, by qpdf, poppler and pdf.js', async () => {
    const protection = protectionOf(lockFor({ open: 'Möwe 7', change: 'owner' }, allowed));
    const [path] = await written({ sheets, files, protection });
    for (const password of ['Möwe 7', 'owner']) {
      expect(tool('qpdf', `--password=${password}`, '--check', path!)).toContain('No syntax or stream encoding errors');
      expect(tool('pdftotext', '-upw', password, '-opw', password, path!, '-')).toContain('Secret hall');
    }
    for (const wrong of ['', 'Mowe 7']) {
      expect(() => execFileSync('qpdf', [`--password=${wrong}`, '--check', path!], { stdio: 'pipe' })).toThrow(
        /invalid password/,
      );
    }
    await expect(linksOf(path!, 1, 'wrong')).rejects.toThrow(/[Pp]assword/);
    await expect(linksOf(path!, 1, 'Möwe 7')).resolves.toEqual([]);
    expect(readFileSync(path!, 'latin1')).not.toContain('Secret');
  });

  it('says what is allowed, in AES with 256 bits', async () => {
    const [path] = await written({
      sheets,
      files,
      protection: protectionOf(lockFor({ open: '', change: 'owner' }, allowed)),
    });
    const told = tool('qpdf', '--show-encryption', path!);
    expect(told).toContain('R = 6');
    expect(told).toContain('print low resolution: allowed');
    expect(told).toContain('print high resolution: allowed');
    expect(told).toContain('extract for any purpose: not allowed');
    expect(told).toContain('modify document assembly: not allowed');
    expect(told).toContain('stream encryption method: AESv3');
  });

  it('gives the same bytes for the same lock, and keeps no password in it', async () => {
    const lock = lockFor({ open: 'open-sesame', change: 'owner-word' }, allowed);
    expect(JSON.stringify(lock)).not.toMatch(/open-sesame|owner-word/);
    const read = async (): Promise<Buffer> =>
      readFileSync((await written({ sheets, files, protection: protectionOf(lock) }))[0]!);
    expect((await read()).equals(await read())).toBe(true);
  });
});

describe('versions', () => {
  it.each(['1.4', '1.7', '2.0'] as const)('%s is what readers find, without a complaint', async (version) => {
    const sheets = [{ sheet: sheet('a', 'A-101'), texts: ['Hall'] }];
    const [path] = await written({ sheets, files: [{ path: `v${version}.pdf`, sheets: ['a'] }], recipe: { version } });
    expect(tool('pdfinfo', path!)).toMatch(new RegExp(`PDF version:\\s+${version.replace('.', '\\.')}`));
    expect(tool('qpdf', '--check', path!)).toContain('No syntax or stream encoding errors');
    expect(tool('pdftotext', path!, '-')).toContain('Hall');
    expect(execFileSync('mutool', ['info', path!], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] })).toContain(
      'Pages: 1',
    );
    if (version === '1.4') expect(readFileSync(path!, 'latin1')).not.toMatch(/ObjStm|\/XRef/);
  });
});

/**
 * ISO 19005-2 (from memory), level B: what can be tested here. Not tested: that every colour, font and picture is used
 * as its own specification asks, which takes a validator.
 */
describe('a file for keeping, PDF/A-2b', () => {
  type Objects = Record<
    string,
    { value?: Record<string, unknown>; stream?: { dict: Record<string, unknown>; data?: string } }
  >;

  async function kept(): Promise<{ path: string; objects: Objects; trailer: Record<string, unknown> }> {
    const sheets = [
      { sheet: sheet('a', 'A-101'), texts: ['Café Łódź, see A-102', 'https://example.org'] },
      { sheet: sheet('b', 'A-102'), texts: ['Hall'] },
    ];
    const [path] = await written({
      sheets,
      files: [{ path: 'kept.pdf', sheets: ['a', 'b'] }],
      recipe: { version: 'A-2b' },
    });
    const told = JSON.parse(
      tool('qpdf', '--json', '--json-stream-data=inline', '--decode-level=generalized', path!),
    ) as { qpdf: [unknown, Objects] };
    const objects = told.qpdf[1];
    return { path: path!, objects, trailer: objects['trailer']!.value! };
  }

  it('6.1: has a header with a binary comment, an id, no encryption', async () => {
    const { path, trailer } = await kept();
    const start = readFileSync(path).subarray(0, 16);
    expect(start.subarray(0, 8).toString('latin1')).toBe('%PDF-1.7');
    expect([...start.subarray(10, 14)].every((byte) => byte > 127)).toBe(true);
    expect(trailer).toHaveProperty('/ID');
    expect(trailer).not.toHaveProperty('/Encrypt');
    expect(tool('qpdf', '--check', path)).toContain('No syntax or stream encoding errors');
  });

  it('6.2: states sRGB by a profile that reads as one', async () => {
    const { objects } = await kept();
    const catalog = Object.values(objects).find(({ value }) => value?.['/Type'] === '/Catalog')!.value!;
    const [intent] = catalog['/OutputIntents'] as Record<string, string>[];
    expect(intent).toMatchObject({ '/S': '/GTS_PDFA1' });
    const { stream } = objects[`obj:${intent!['/DestOutputProfile']}`]!;
    const profile = Buffer.from(stream!.data!, 'base64');
    expect(stream!.dict['/N']).toBe(3);
    expect([profile.readUInt32BE(0), profile.toString('latin1', 12, 24), profile.toString('latin1', 36, 40)]).toEqual([
      profile.length,
      'mntrRGB XYZ ',
      'acsp',
    ]);
    // Its primaries add up to the white of D50, as those of a matrix profile must (ICC.1).
    const tags = new Map(
      Array.from({ length: profile.readUInt32BE(128) }, (_, i) => [
        profile.toString('latin1', 132 + 12 * i, 136 + 12 * i),
        profile.readUInt32BE(136 + 12 * i),
      ]),
    );
    const part = (tag: string, i: number): number => profile.readInt32BE(tags.get(tag)! + 8 + 4 * i) / 65_536;
    [0.9642, 1, 0.8249].forEach((white, i) => {
      expect(part('rXYZ', i) + part('gXYZ', i) + part('bXYZ', i)).toBeCloseTo(white, 3);
    });
  });

  it('6.2.11: embeds every font, with widths and Unicode', async () => {
    const { path } = await kept();
    for (const font of tool('pdffonts', path).trim().split('\n').slice(2)) expect(font).toMatch(/yes yes yes/);
  });

  it('6.3 and 6.5: has annotations that print, and only actions that are allowed', async () => {
    const { objects } = await kept();
    const annotations = Object.values(objects).filter(({ value }) => value?.['/Subtype'] === '/Link');
    expect(annotations).toHaveLength(2);
    for (const { value } of annotations) {
      expect(value!['/F']).toBe(4);
      const action = value!['/A'] as Record<string, string> | undefined;
      if (action) expect(action['/S']).toBe('/URI');
    }
    expect(JSON.stringify(objects)).not.toMatch(/\/(JavaScript|Launch|AA|EmbeddedFiles)"/);
  });

  it('6.6: says part and conformance in its metadata, which agree with its information', async () => {
    const { objects, path } = await kept();
    const metadata = Object.values(objects).find(({ stream }) => stream?.dict['/Type'] === '/Metadata')!.stream!;
    expect(metadata.dict).not.toHaveProperty('/Filter');
    const xmp = Buffer.from(metadata.data!, 'base64').toString('utf8');
    expect(xmp).toContain('<pdfaid:part>2</pdfaid:part>');
    expect(xmp).toContain('<pdfaid:conformance>B</pdfaid:conformance>');
    const title = /Title:\s+(.*)/.exec(tool('pdfinfo', path))![1]!;
    expect(xmp).toContain(`>${title}<`);
  });

  it('6.9: has layers whose configuration has a name, lists all, and switches none by itself', async () => {
    const { objects } = await kept();
    const catalog = Object.values(objects).find(({ value }) => value?.['/Type'] === '/Catalog')!.value!;
    const properties = catalog['/OCProperties'] as { '/OCGs': string[]; '/D': Record<string, unknown> };
    expect(properties['/D']).toHaveProperty('/Name');
    expect(properties['/D']).not.toHaveProperty('/AS');
    const order = JSON.stringify(properties['/D']['/Order']);
    for (const group of properties['/OCGs']) expect(order).toContain(group);
  });
});

describe('inks in the content stream', () => {
  const WEIGHTS = [0.13, 0.18, 0.25, 0.35, 0.5, 0.7];
  const COLOURS = [0xff0000, 0x00ff00, 0x0000ff, 0x8c7853, 0xffff00];

  async function streamOf(
    ink: (page: ReturnType<PageBuilder['build']>) => ReturnType<PageBuilder['build']>,
  ): Promise<string> {
    const builder = new PageBuilder(100, 100);
    const path = new Path();
    [...WEIGHTS.map((weight) => [weight, 0x336699]), ...COLOURS.map((colour) => [0.25, colour])].forEach(
      ([weight, colour], i) => {
        path.clear();
        path.moveTo(10, 5 * i);
        path.lineTo(90, 5 * i);
        builder.stroke(path, builder.layer('p.dxf', `L${i}`), builder.pen(weight!, colour!));
      },
    );
    const tools = await pdfTools();
    const { content } = writePart(ink(builder.build()), tools.fonts, false, (bytes) => bytes);
    return Buffer.from(content).toString('latin1');
  }

  it('has the line widths of the schedule to 0.005 mm', async () => {
    const rules = WEIGHTS.map((_, i) => ({ layer: `L${i}`, weight: WEIGHTS.at(-1 - i)! }));
    const text = await streamOf((page) => inkBySchedule(page, { id: 's', name: 'S', rules }));
    const unit = Number(/^([\d.]+) 0 0/.exec(text)![1]);
    const widths = [...text.matchAll(/^(\d+) w$/gm)].map(([, width]) => Number(width) * unit * MM_PER_POINT);
    const wanted = [...WEIGHTS].reverse();
    wanted.forEach((width, i) => expect(Math.abs(widths[i]! - width)).toBeLessThan(0.005));
  });

  it('has greys of the luminance of their colours (ITU-R BT.709, IEC 61966-2-1)', async () => {
    const text = await streamOf((page) => inkPage(page, 'greys'));
    const greys = [...text.matchAll(/^([\d.]+) G$/gm)].map(([, grey]) => Number(grey)).slice(-COLOURS.length);
    const linear = (encoded: number): number =>
      encoded <= 0.04045 ? encoded / 12.92 : ((encoded + 0.055) / 1.055) ** 2.4;
    COLOURS.forEach((colour, i) => {
      const part = (shift: number): number => linear(((colour >> shift) & 255) / 255);
      const wanted = 0.2126 * part(16) + 0.7152 * part(8) + 0.0722 * part(0);
      expect(linear(greys[i]!)).toBeCloseTo(wanted, 2);
      expect(luminance(colour)).toBeCloseTo(wanted, 6);
    });
  });
});
