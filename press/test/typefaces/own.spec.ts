import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { convert } from 'fontverter';
import { composeSheet, FontSet, ownFontId, readDxf, type Page, type View } from '@folvex/core';
import { faceOf, fontsWith, openTypefaces, pagePdf, sha256, shippedFaces, type TypefaceFile } from '../../src/index';
import { difference, ownFolder, SHEET, rastered, tool } from '../support/published';

const require = createRequire(import.meta.url);
const folder = ownFolder();

const TTF = 'source-sans/TTF/SourceSans3-Regular.ttf';
const CFF = 'source-sans/OTF/SourceSans3-Regular.otf';
const BOLD = 'source-sans/OTF/SourceSans3-Bold.otf';
/** Latin, Japanese and Chinese characters with outlines of TrueType (SIL Open Font License). */
const CJK = '@expo-google-fonts/dotgothic16/400Regular/DotGothic16_400Regular.ttf';

function fileOf(name: string): Buffer {
  return readFileSync(require.resolve(name));
}

/** A typeface as the office's own, asked for by a name. */
async function own(bytes: Uint8Array, asked: string): Promise<TypefaceFile> {
  const [opened] = await openTypefaces(bytes, asked);
  const hash = sha256(opened!.bytes);
  const path = join(folder, hash);
  writeFileSync(path, opened!.bytes);
  return { id: 'office', hash, path, asked: [asked] };
}

/** A page with a text in a font that a drawing asks for, 10 units high. */
function pageWith(words: string, fonts: FontSet, font = 'office.ttf'): Page {
  const style = ['0', 'TABLE', '2', 'STYLE', '0', 'STYLE', '2', 'NOTES', '3', font, '0', 'ENDTAB'];
  const text = ['0', 'TEXT', '8', '0', '7', 'NOTES', '10', '5', '20', '5', '40', '10', '1', words];
  const header = ['0', 'SECTION', '2', 'HEADER', '9', '$ACADVER', '1', 'AC1027', '0', 'ENDSEC'];
  const dxf = [
    ...header,
    '0',
    'SECTION',
    '2',
    'TABLES',
    ...style,
    '0',
    'ENDSEC',
    '0',
    'SECTION',
    '2',
    'ENTITIES',
    ...text,
  ];
  const read = readDxf(Buffer.from([...dxf, '0', 'ENDSEC', '0', 'EOF', ''].join('\n')), 'notes.dxf');
  if (!read.ok) throw new Error(read.problem.sentence);
  const { drawing } = read;
  const view: View = {
    ...{ id: 'v', drawing: 'd', space: 'model', window: [0, 0, 190, 25], scale: '1:1', at: 'centre' },
    ...{ layersOff: [], label: '' },
  };
  return composeSheet({
    project: { number: '', name: '', client: '', fields: {} },
    sheet: { ...SHEET, paper: { size: [200, 40] }, views: [view] },
    fonts,
    source: () => ({ drawing, unit: 'mm' }),
  }).page;
}

async function published(name: string, page: Page, fonts: FontSet, text?: 'outlines'): Promise<string> {
  const path = join(folder, `${name}.pdf`);
  writeFileSync(path, await pagePdf(page, name, { fonts, ...(text && { text }) }));
  expect(tool('qpdf', '--check', path)).toContain('No syntax or stream encoding errors');
  return path;
}

function fontsIn(pdf: string): string[] {
  return tool('pdffonts', pdf).split('\n').slice(2).filter(Boolean);
}

describe('A typeface of the office', () => {
  it('is taken for the fonts that drawings ask for by its names, whatever their folder and ending', async () => {
    const [opened] = await openTypefaces(fileOf(CFF), 'Office Sans.otf');
    expect(opened).toMatchObject({ name: 'Source Sans 3', embedding: 'subset' });
    expect(opened!.asked).toEqual(['office sans', 'source sans 3', 'sourcesans3-regular']);
    const face = faceOf(ownFontId('ab'), fileOf(CFF));
    const fonts = new FontSet(shippedFaces(), [
      { id: 'office', font: face.id, asked: opened!.asked, read: () => face },
    ]);
    for (const wanted of ['OFFICE SANS.TTF', 'C:\\Fonts\\office sans.otf', 'Source Sans 3']) {
      expect(fonts.substitute(wanted)).toEqual({ font: 'own-ab', width: 1 });
    }
    expect(fonts.substitute('arial.ttf').font).toBe('sans');
    // Without a face of that style it is the family's; of a list of families, the first that is there.
    expect(fonts.substitute('Source Sans 3 Bold Italic').font).toBe('own-ab');
    expect(fonts.substitute("'Unknown', 'Source Sans 3', serif").font).toBe('own-ab');
  });

  it('is read once it is used, and not before', () => {
    let times = 0;
    const read = () => {
      times++;
      return faceOf(ownFontId('ab'), fileOf(CFF));
    };
    const fonts = new FontSet(shippedFaces(), [{ id: 'office', font: ownFontId('ab'), asked: ['office'], read }]);
    const page = pageWith('Ground floor', fonts, 'arial.ttf');
    expect([page.texts[0]!.font, times]).toEqual(['sans', 0]);
    pageWith('Ground floor', fonts);
    pageWith('Upper floor', fonts);
    expect(times).toBe(1);
  });

  it.each([
    ['PostScript outlines', CFF, 'CID Type 0C'],
    ['TrueType outlines', TTF, 'CID TrueType'],
  ])('with %s is embedded, cut down, and can be searched', async (_, file, kind) => {
    const fonts = fontsWith([await own(fileOf(file), 'office')]);
    const pdf = await published('embedded', pageWith('Ground floor 1:50 Ø', fonts), fonts);
    expect(fontsIn(pdf)).toEqual([
      expect.stringMatching(`^[A-Z]{6}\\+SourceSans3-Regular +${kind} +\\S+ +yes yes yes`),
    ]);
    expect(tool('pdftotext', pdf, '-').trim()).toBe('Ground floor 1:50 Ø');
    expect(readFileSync(pdf).length).toBeLessThan(20_000);
  });

  it('looks the same as text and as outlines, and like its sister with other outlines', async () => {
    const [cff, ttf] = await Promise.all(
      [CFF, TTF].map(async (file) => fontsWith([await own(fileOf(file), 'office')])),
    );
    const words = 'Querschnitt §&@ 0.50';
    const text = rastered(await published('text', pageWith(words, cff!), cff!), 150);
    const outlines = rastered(await published('outlines', pageWith(words, cff!), cff!, 'outlines'), 150);
    const sister = rastered(await published('sister', pageWith(words, ttf!), ttf!), 150);
    for (const other of [outlines, sister]) {
      const { strong, inked } = await difference(text, other);
      expect(inked).toBeGreaterThan(0.01);
      expect(strong).toBeLessThan(0.001);
    }
  });

  it('shows what no shipped one has: Japanese and Chinese texts', async () => {
    const fonts = fontsWith([await own(fileOf(CJK), 'office')]);
    const pdf = await published('cjk', pageWith('一階平面図 A-101 图', fonts, 'arial.ttf'), fonts);
    expect(tool('pdftotext', pdf, '-').trim()).toBe('一階平面図 A-101 图');
    expect(fontsIn(pdf).join()).toMatch(/DotGothic16.*yes yes yes/);
  });

  it('whose glyphs are known by identifiers is embedded by these', async () => {
    const bytes = readFileSync(new URL('./data/cid-keyed.otf', import.meta.url));
    const face = faceOf(ownFontId('1'), bytes);
    expect(face.cff!.cidOf!(face.glyphOf('図'.codePointAt(0)!))).toBe(13170);
    const fonts = fontsWith([await own(bytes, 'office')]);
    const page = pageWith('一階平面図A-101', fonts);
    const [text, outlines] = [
      await published('cid', page, fonts),
      await published('cid-drawn', page, fonts, 'outlines'),
    ];
    expect(tool('pdftotext', text, '-').trim()).toBe('一階平面図A-101');
    const { strong, inked } = await difference(rastered(text, 150), rastered(outlines, 150));
    expect(inked).toBeGreaterThan(0.01);
    expect(strong).toBeLessThan(0.001);
    const other = join(folder, 'cid-mu.png');
    tool('mutool', 'draw', '-q', '-r', '150', '-o', other, text);
    expect((await difference(rastered(text, 150), other)).strong).toBeLessThan(0.005);
  });

  it('that may not be cut down is embedded as a whole', async () => {
    const fonts = fontsWith([await own(withEmbedding(fileOf(CFF), 0x100), 'office')]);
    const pdf = await published('whole', pageWith('Ground floor', fonts), fonts);
    expect(fontsIn(pdf)).toEqual([expect.stringMatching(/^SourceSans3-Regular +CID Type 0C +\S+ +yes no +yes/)]);
  });

  it('that may not be embedded is drawn as outlines, over a text in another one that is found as wide', async () => {
    const free = fontsWith([await own(fileOf(BOLD), 'office')]);
    const bound = fontsWith([await own(withEmbedding(fileOf(BOLD), 2), 'office')]);
    const words = 'Ground floor WWW iii';
    const [one, other] = [
      await published('free', pageWith(words, free), free),
      await published('bound', pageWith(words, bound), bound),
    ];
    expect(fontsIn(other).join()).not.toContain('Bold');
    expect(tool('pdftotext', other, '-').trim()).toBe(words);
    const width = (pdf: string): number => {
      const words = [...tool('pdftotext', '-bbox', pdf, '-').matchAll(/xMin="([\d.]+)".*xMax="([\d.]+)"/g)];
      return Number(words.at(-1)![2]) - Number(words[0]![1]);
    };
    expect(width(other)).toBeCloseTo(width(one), 1);
    expect((await difference(rastered(one, 150), rastered(other, 150))).strong).toBeLessThan(0.001);
  });
});

describe('A file of typefaces', () => {
  it('may be compressed', async () => {
    for (const format of ['woff', 'woff2'] as const) {
      const packed = await convert(fileOf(CFF), format);
      const [opened] = await openTypefaces(packed, `packed.${format}`);
      const [face, plain] = [faceOf(ownFontId('1'), opened!.bytes), faceOf(ownFontId('2'), fileOf(CFF))];
      expect(face.outlineOf(face.glyphOf(0x52))).toEqual(plain.outlineOf(plain.glyphOf(0x52)));
    }
  });

  it('may hold several', async () => {
    const opened = await openTypefaces(collectionOf([fileOf(TTF), fileOf(BOLD)]), 'both.ttc');
    expect(opened.map(({ name }) => name)).toEqual(['Source Sans 3', 'Source Sans 3 Bold']);
    expect(opened[1]!.asked).toEqual(['source sans 3 bold', 'sourcesans3-bold']);
    const [first, second] = opened.map(({ bytes }) => faceOf(ownFontId('1'), bytes));
    expect([first!.cff, second!.cff !== undefined]).toEqual([undefined, true]);
    const plain = faceOf(ownFontId('2'), fileOf(BOLD));
    expect(second!.outlineOf(second!.glyphOf(0x52))).toEqual(plain.outlineOf(plain.glyphOf(0x52)));
  });

  it.each([
    ['nothing', new Uint8Array()],
    ['a drawing', Buffer.from('0\nSECTION\n')],
    ['half a font', fileOf(TTF).subarray(0, 40_000)],
    ['half a compressed one', fileOf('source-sans/WOFF2/TTF/SourceSans3-Regular.ttf.woff2').subarray(0, 9000)],
  ])('that is %s is refused with a sentence', async (_, bytes) => {
    await expect(openTypefaces(bytes, 'office.ttf')).rejects.toMatchObject({
      problem: {
        code: 'typeface.unreadable',
        sentence: expect.stringContaining('choose a TTF, OTF, TTC or WOFF2 file'),
      },
    });
  });
});

/** A font that says otherwise how it may be embedded (`fsType` of OS/2; ISO/IEC 14496-22, 5.7.7). */
function withEmbedding(font: Buffer, fsType: number): Buffer {
  const copy = Buffer.from(font);
  for (let at = 12; at < 12 + 16 * copy.readUInt16BE(4); at += 16) {
    if (copy.toString('latin1', at, at + 4) === 'OS/2') copy.writeUInt16BE(fsType, copy.readUInt32BE(at + 8) + 8);
  }
  return copy;
}

/** Fonts in one file (ISO/IEC 14496-22, 4.6): their directories after its header, their tables where these say. */
function collectionOf(fonts: readonly Buffer[]): Buffer {
  const header = Buffer.alloc(12 + 4 * fonts.length);
  header.write('ttcf');
  header.writeUInt32BE(0x10000, 4);
  header.writeUInt32BE(fonts.length, 8);
  let at = header.length;
  const moved = fonts.map((font, i) => {
    const copy = Buffer.from(font);
    header.writeUInt32BE(at, 12 + 4 * i);
    for (let entry = 12; entry < 12 + 16 * copy.readUInt16BE(4); entry += 16) {
      copy.writeUInt32BE(copy.readUInt32BE(entry + 8) + at, entry + 8);
    }
    at += copy.length;
    return copy;
  });
  return Buffer.concat([header, ...moved]);
}
