import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { PdfDocument, STANDARD_RECIPE, unpackParts, type ExtraFormat, type Recipe, type Sheet } from '@folvex/core';
import { makeSheet, pdfTools, sha256, type SheetTask } from '../../src/index';
import { verifyFormat } from '../../src/formats';
import { ownFolder, tool } from '../support/published';
import { makePart } from '../support/make-part';

const folder = ownFolder();
/** Five pixels to the millimetre: papers are whole numbers of pixels. */
const DPI = 127;

function group(...pairs: (string | number)[]): string {
  return `${pairs.join('\n')}\n`;
}

/** Walls, a circle, a dashed line, a hatch and a text, in metres. */
const DRAWING = [
  group(0, 'SECTION', 2, 'HEADER', 9, '$INSUNITS', 70, 6, 0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES'),
  group(0, 'LINE', 8, 'A-WALL', 370, 100, 10, 0, 20, 0, 11, 20, 21, 0),
  group(0, 'LINE', 8, 'A-WALL', 370, 100, 62, 1, 10, 0, 20, 0, 11, 0, 21, 12),
  group(0, 'CIRCLE', 8, 'A-COL', 370, 50, 10, 10, 20, 6, 40, 4),
  group(0, 'SOLID', 8, 'A-FILL', 62, 3, 10, 2, 20, 2, 11, 6, 21, 2, 12, 2, 22, 5, 13, 6, 23, 5),
  group(0, 'TEXT', 8, 'A-TEXT', 10, 12, 20, 3, 40, 0.8, 1, 'Ticket hall'),
  group(0, 'ENDSEC', 0, 'EOF'),
].join('');

const SHEET: Sheet = {
  ...{ id: 's', number: 'A-101', title: 'Plan & hall', group: '', frame: 'iso5457', titleBlock: undefined },
  ...{ paper: { name: 'A4', orientation: 'landscape' }, revision: undefined },
  views: [
    {
      ...{ id: 'v', drawing: 'd', space: 'model', window: [1, -1, 19, 13], scale: '1:100', at: 'centre' },
      ...{ layersOff: [], label: '' },
    },
  ],
};

function taskOf(recipe: Partial<Recipe> = {}, sheet: Partial<Sheet> = {}, file = 'plan.dxf'): SheetTask {
  const path = join(folder, file);
  if (file === 'plan.dxf') writeFileSync(path, DRAWING);
  return {
    project: { number: '', name: '', client: '', fields: {} },
    sheet: { ...SHEET, ...sheet },
    recipe: { ...STANDARD_RECIPE, ...recipe },
    drawings: [{ id: 'd', name: file, path, hash: sha256(readFileSync(path)) }],
  };
}

async function written(task: SheetTask, formats: ExtraFormat[], dpi?: number): Promise<Record<string, string>> {
  const options = dpi === undefined ? {} : { dpi };
  const made = await makeSheet({ ...task, part: false, formats, folder, options });
  if (!made.ok) throw new Error(made.problem.sentence);
  return Object.fromEntries(made.value.extraFormats.map(({ format, temporary }) => [format, temporary]));
}

/** The sheet as PDF, painted by poppler. */
async function painted(task: SheetTask, name: string, perMm = 5): Promise<string> {
  const made = await makePart({ ...task, folder });
  if (!made.ok) throw new Error(made.problem.sentence);
  const chunks: Uint8Array[] = [];
  const facts = { title: 't', author: '', producer: 'Folvex', date: '', id: 'AB'.repeat(16) };
  const document = new PdfDocument({ write: (bytes) => chunks.push(bytes.slice()) }, await pdfTools(), facts);
  document.addPage(unpackParts(readFileSync(made.value.temporary))[0]!, { number: 'A-101', title: '' });
  document.finish();
  const pdf = join(folder, `${name}.pdf`);
  writeFileSync(pdf, Buffer.concat(chunks));
  const [wide, high] = [297 * perMm, 210 * perMm].map(String) as [string, string];
  tool('pdftoppm', '-scale-to-x', wide, '-scale-to-y', high, '-png', '-singlefile', pdf, join(folder, name));
  return join(folder, `${name}.png`);
}

/** The first short of a tag of a little-endian TIFF. */
function tagOf(file: string, tag: number): number | undefined {
  const bytes = readFileSync(file);
  const directory = bytes.readUInt32LE(4);
  for (let i = 0; i < bytes.readUInt16LE(directory); i++) {
    const at = directory + 2 + 12 * i;
    if (bytes.readUInt16LE(at) === tag) return bytes.readUInt16LE(at + 8);
  }
  return undefined;
}

/** How many of a hundred pixels differ by more than half of white, after both were softened by a pixel. */
async function unlike(a: string | Buffer, b: string | Buffer): Promise<number> {
  const { width, height } = await sharp(a).metadata();
  const raw = (one: string | Buffer) => {
    return sharp(one)
      .resize(width, height, { fit: 'fill' })
      .flatten({ background: '#fff' })
      .toColourspace('b-w')
      .blur(1)
      .raw()
      .toBuffer();
  };
  const [first, second] = await Promise.all([raw(a), raw(b)]);
  let differ = 0;
  first.forEach((value, i) => (differ += Math.abs(value - second[i]!) > 90 ? 1 : 0));
  return (100 * differ) / first.length;
}

it('writes pictures of the resolution asked for that show what poppler shows of the PDF', async () => {
  const task = taskOf();
  const files = await written(task, ['png', 'tiff', 'jpeg'], DPI);
  const wanted = await painted(task, 'whole');
  for (const file of Object.values(files)) {
    const facts = await sharp(file).metadata();
    // A4 is 297 × 210 mm (ISO 216).
    expect([facts.width, facts.height, Math.round(facts.density!)]).toEqual([297 * 5, 210 * 5, DPI]);
    expect(await unlike(file, wanted)).toBeLessThan(0.05);
  }
  // A larger one is painted in pieces, which nobody sees.
  const large = await written(task, ['png'], 2 * DPI);
  expect(await unlike(large['png']!, await painted(task, 'large', 10))).toBeLessThan(0.05);
  // The measure can tell: without the circle it is another picture.
  const other = await painted(taskOf({}, { views: [{ ...SHEET.views[0]!, layersOff: ['A-COL'] }] }), 'other');
  expect(await unlike(files['png']!, other)).toBeGreaterThan(0.2);
});

it('writes an SVG of true size, with texts, that rsvg-convert paints as poppler paints the PDF', async () => {
  const task = taskOf();
  const { svg } = await written(task, ['svg']);
  const text = readFileSync(svg!, 'utf8');
  expect(text).toContain('width="297mm" height="210mm"');
  expect(text).toContain('<title>A-101 Plan &amp; hall</title>');
  expect(text).toContain('>Ticket hall</text>');
  const { svg: outlined } = await written(taskOf({ text: 'outlines' }), ['svg']);
  expect(readFileSync(outlined!, 'utf8')).not.toContain('<text');
  const wanted = await painted(task, 'again');
  const png = join(folder, 'svg.png');
  const resolution = ['--dpi-x', String(DPI), '--dpi-y', String(DPI)];
  tool('rsvg-convert', ...resolution, '-o', png, outlined!);
  expect(await unlike(wanted, png)).toBeLessThan(0.05);
  // Text is set in what the machine has.
  tool('rsvg-convert', ...resolution, '-o', png, svg!);
  expect(await unlike(wanted, png)).toBeLessThan(0.6);
});

it('writes greys in one channel, and black and white in one bit for fax-coded TIFFs', async () => {
  const { png } = await written(taskOf({ colour: 'greys' }), ['png'], DPI);
  expect((await sharp(png).metadata()).channels).toBe(1);
  const { tiff } = await written(taskOf({ colour: 'black', pictureTone: 'bilevel' }), ['tiff'], DPI);
  // TIFF 6.0: BitsPerSample is tag 258, Compression tag 259, of which 4 is T.6 coding.
  expect([tagOf(tiff!, 258), tagOf(tiff!, 259)]).toEqual([1, 4]);
  expect(await unlike(tiff!, await painted(taskOf({ colour: 'black' }), 'black'))).toBeLessThan(0.5);
});

it('shows placed pages of PDFs and pictures', async () => {
  // The plan as a PDF of somebody else, placed on a sheet at half its size.
  await painted(taskOf(), 'theirs');
  const view = { ...SHEET.views[0]!, space: 'Page 1', window: 'extents' as const, scale: '1:2' };
  const task = taskOf({}, { views: [view], frame: 'none' }, 'theirs.pdf');
  const { png, svg } = await written(task, ['png', 'svg'], DPI);
  const wanted = await painted(task, 'placed');
  expect(await unlike(png!, wanted)).toBeLessThan(0.3);
  expect(readFileSync(svg!, 'utf8')).toContain('data:image/png;base64,');
  // Something is there at all.
  const blank = await sharp({ create: { width: 297 * 5, height: 210 * 5, channels: 3, background: '#fff' } })
    .png()
    .toBuffer();
  expect(await unlike(png!, blank)).toBeGreaterThan(0.5);
});

it('shades as poppler does in pictures and in SVG, and in one colour in DXF', async () => {
  const stops =
    '<stop stop-color="#204060"/><stop offset=".5" stop-color="white"/><stop offset="1" stop-color="#a03020"/>';
  const shades = `<linearGradient id="a" gradientTransform="rotate(20)">${stops}</linearGradient>
    <radialGradient id="b" fx=".3" fy=".3">${stops}</radialGradient>
    <linearGradient id="c"><stop stop-color="#204060"/><stop offset="1" stop-color="#204060" stop-opacity="0"/></linearGradient>`;
  const shapes = `<rect x="10" y="10" width="90" height="40" fill="url(#a)"/><ellipse cx="130" cy="30" rx="25" ry="15" fill="url(#b)"/>
    <rect x="10" y="60" width="60" height="30" fill="url(#c)" opacity=".7"/><path d="M80 75h60" stroke="url(#c)" stroke-width="20"/>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="160mm" height="100mm" viewBox="0 0 160 100">${shades}${shapes}</svg>`;
  writeFileSync(join(folder, 'shades.svg'), svg);
  const view = { ...SHEET.views[0]!, window: 'extents' as const, scale: '1:1' };
  const task = taskOf({}, { views: [view] }, 'shades.svg');
  const { png, svg: drawn, dxf } = await written(task, ['png', 'svg', 'dxf'], DPI);
  const wanted = await painted(task, 'shaded');
  expect(await unlike(wanted, png!)).toBeLessThan(0.05);
  const again = join(folder, 'shades-again.png');
  tool('rsvg-convert', '--dpi-x', String(DPI), '--dpi-y', String(DPI), '-o', again, drawn!);
  expect(await unlike(wanted, again)).toBeLessThan(0.05);
  // The mean of #204060, white and #a03020 along the gradient, as true colour (DXF code 420).
  expect(readFileSync(dxf!, 'utf8')).toContain(`420\n${0xb09ca0}\n`);
});

it('shows the thinnest lines a pixel wide, as poppler does', async () => {
  const file = 'hairline.dxf';
  const line = group(0, 'LINE', 8, 'A-WALL', 370, 0, 10, 0, 20, 0, 11, 20, 21, 0);
  writeFileSync(join(folder, file), DRAWING.slice(0, DRAWING.indexOf('0\nLINE')) + line + group(0, 'ENDSEC', 0, 'EOF'));
  const task = taskOf({}, { frame: 'none' }, file);
  const { png } = await written(task, ['png'], DPI);
  const darkest = async (picture: string) => (await sharp(picture).toColourspace('b-w').stats()).channels[0]!.min;
  expect(await darkest(await painted(task, 'hairline'))).toBeLessThan(130);
  // At the boundary of two rows of pixels each is half covered.
  expect(await darkest(png!)).toBeLessThan(130);
});

it('shows a photograph as it lies, whatever way its camera was held', async () => {
  const sides = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#fff' } })
    .composite([{ input: { create: { width: 200, height: 60, channels: 3, background: '#000' } }, left: 0, top: 0 }])
    .jpeg({ quality: 95 })
    .withMetadata({ orientation: 6 })
    .toBuffer();
  writeFileSync(join(folder, 'photo.jpg'), sides);
  const view = { ...SHEET.views[0]!, space: 'Page 1', window: 'extents' as const, scale: '1:1' };
  const task = taskOf({}, { views: [view], frame: 'none' }, 'photo.jpg');
  const { png, svg } = await written(task, ['png', 'svg'], DPI);
  const wanted = await painted(task, 'photo');
  expect(await unlike(png!, wanted)).toBeLessThan(0.1);
  const drawn = join(folder, 'photo-svg.png');
  tool('rsvg-convert', '--dpi-x', String(DPI), '--dpi-y', String(DPI), '-o', drawn, svg!);
  expect(await unlike(drawn, wanted)).toBeLessThan(0.1);
  // Upright or mirrored it would be another picture.
  expect(await unlike(await sharp(png).flop().toBuffer(), wanted)).toBeGreaterThan(0.3);
});

it.each([
  ['png', 'full'],
  ['png', 'greys'],
  ['svg', 'greys'],
] as const)('tells which picture is damaged, in %s too, in %s', async (format, colour) => {
  const jpeg = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#888' } })
    .jpeg()
    .toBuffer();
  // Its size can still be read, its pixels not: the code tables (marker DHT, ITU-T T.81) are overwritten.
  const tables = jpeg.indexOf(Buffer.from([0xff, 0xc4]));
  jpeg.fill(0x55, tables + 5, tables + 21);
  writeFileSync(join(folder, 'scan.jpg'), jpeg);
  const view = { ...SHEET.views[0]!, space: 'Page 1', window: 'extents' as const, scale: '1:1' };
  const task = taskOf({ colour }, { views: [view], frame: 'none' }, 'scan.jpg');
  expect(await makeSheet({ ...task, part: false, formats: [format], folder })).toMatchObject({
    ok: false,
    problem: {
      code: 'picture.damaged',
      sentence: expect.stringContaining('A picture of scan.jpg is damaged') as string,
    },
  });
});

it('refuses pictures that are too large, with what to do', async () => {
  const made = await makeSheet({
    part: false,
    ...taskOf({}, { paper: { name: 'A0', orientation: 'landscape' } }),
    formats: ['png'],
    options: { dpi: 1200 },
    folder,
  });
  expect(made).toMatchObject({ ok: false, problem: { code: 'picture.too-large' } });
  expect(!made.ok && made.problem.sentence).toMatch(/56173 × 39732 pixels.*choose a lower resolution/);
});

it('finds in its files what should be there, and what is not as it should be', async () => {
  const paper = { width: 297, height: 210, options: { dpi: DPI } };
  const files = await written(taskOf(), ['dxf', 'svg', 'png', 'tiff', 'jpeg'], DPI);
  for (const [format, path] of Object.entries(files)) {
    const proof = await verifyFormat({ ...paper, path, format: format as ExtraFormat });
    expect([format, proof.differences]).toEqual([format, []]);
  }
  const proof = await verifyFormat({ ...paper, path: files['dxf']!, format: 'dxf' });
  expect(proof.characters).toBeGreaterThanOrEqual('Tickethall'.length);
  const wrong = { ...paper, width: 420 };
  expect((await verifyFormat({ ...wrong, path: files['png']!, format: 'png' })).differences).toHaveLength(1);
  expect((await verifyFormat({ ...wrong, path: files['svg']!, format: 'svg' })).differences).toHaveLength(1);
  expect(
    (await verifyFormat({ ...paper, options: { dpi: 300 }, path: files['jpeg']!, format: 'jpeg' })).differences,
  ).toHaveLength(2);
  writeFileSync(files['dxf']!, 'nothing');
  expect((await verifyFormat({ ...paper, path: files['dxf']!, format: 'dxf' })).differences).toHaveLength(1);
});
