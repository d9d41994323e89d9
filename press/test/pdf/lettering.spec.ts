import { readFileSync } from 'node:fs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { PageBuilder, strokeLettering, type FontId, type Page, type TextMode } from '@folvex/core';
import { placeLettering } from '../../../core/src/sheet/lettering';
import { shippedFonts } from '../../src/index';
import { difference, MM_PER_POINT, rastered, tool } from '../support/published';
import { sheet, written } from '../support/written';

/** Turned, stretched and in four scripts; the last is longer than an inline picture may be. */
const TEXTS = [
  'Waiting room',
  'Größe Ø 40 ±5°',
  'Αίθουσα αναμονής',
  'Зал ожидания',
  'A long line of lettering '.repeat(3),
];

function lettered(font: FontId): Page {
  const builder = new PageBuilder(297, 210);
  const layer = builder.layer('plan.dxf', 'A-NOTE');
  TEXTS.forEach((text, i) => {
    const look = { lines: [text], font, height: 3.5 + i, widthFactor: 1 - i / 10, lineSpacing: 1 };
    const turn = { a: Math.cos(i / 20), b: Math.sin(i / 20), c: -Math.sin(i / 20), d: Math.cos(i / 20) };
    const map = { ...turn, e: 20, f: 30 + 30 * i };
    for (const placed of placeLettering(shippedFonts(), { ...look, horizontal: 'left', vertical: 'baseline' }, map)) {
      builder.text(placed.text, placed.box, layer, builder.pen(0.35, 0x204060, [2, 1]));
    }
  });
  return builder.build();
}

async function published(name: string, page: Page, text?: TextMode, textDpi = 300): Promise<string> {
  const [path] = await written({
    sheets: [{ sheet: sheet('a', 'A-101'), page }],
    files: [{ path: `${name}.pdf`, sheets: ['a'] }],
    ...(text && { lettering: { text, textDpi } }),
  });
  expect(tool('qpdf', '--check', path!)).toContain('No syntax or stream encoding errors');
  return path!;
}

/** What pdf.js finds of texts, and where, mm. */
async function found(path: string): Promise<{ text: string; x: number; y: number; width: number }[]> {
  const document = await getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0 }).promise;
  const { items } = await (await document.getPage(1)).getTextContent();
  return items.flatMap((item) => {
    if (!('str' in item) || !item.str.trim()) return [];
    const [, , , , x, y] = item.transform as number[];
    return [{ text: item.str, x: x! * MM_PER_POINT, y: y! * MM_PER_POINT, width: item.width * MM_PER_POINT }];
  });
}

describe.each<[TextMode, number]>([
  ['outlines', 0.0005],
  ['picture', 0.004],
])('texts as %s', (mode, strong) => {
  it('look as real text does, and are found where that is', async () => {
    const page = lettered('sans');
    const [plain, other] = [await published('text', page), await published(mode, page, mode, 600)];
    const { inked, ...apart } = await difference(rastered(plain, 150), rastered(other, 150));
    expect(inked).toBeGreaterThan(0.02);
    expect(apart.mean).toBeLessThan(1);
    expect(apart.strong).toBeLessThan(strong);
    expect(await found(other)).toEqual(await found(plain));
    const words = tool('pdftotext', '-raw', other, '-');
    expect(words).toBe(tool('pdftotext', '-raw', plain, '-'));
    for (const text of TEXTS.slice(0, 1)) expect(words).toContain(text.trim());
  });

  it('hides the text itself, which a reader without the fonts would need', async () => {
    const path = await published(`${mode}-hidden`, lettered('sans'), mode);
    const content = tool('mutool', 'show', '-b', path, 'pages/1/Contents');
    expect(content.match(/3 Tr/g)).toHaveLength(1);
    expect(content.includes('BI /IM true')).toBe(mode === 'picture');
  });
});

it('cuts pictures of long texts so that none is larger than inline pictures should be (ISO 32000-2, 8.9.7)', async () => {
  const path = await published('cut', lettered('sans'), 'picture', 600);
  const content = tool('mutool', 'show', '-b', path, 'pages/1/Contents');
  const lengths = [...content.matchAll(/ID ([0-9A-F]+)>/g)].map(([, hex]) => hex!.length / 2);
  expect(lengths.length).toBeGreaterThan(TEXTS.length);
  expect(Math.max(...lengths)).toBeLessThanOrEqual(4000);
});

describe('single-stroke lettering', () => {
  it('is drawn with the pen of the text, without its dashes, and found where the text was', async () => {
    const page = lettered('technical');
    const plain = await published('technical', page);
    const stroked = await published('strokes', strokeLettering(page, shippedFonts()));
    expect(await found(stroked)).toEqual(await found(plain));
    const content = tool('mutool', 'show', '-b', stroked, 'pages/1/Contents');
    expect(content).toMatch(/\n35 w\n/);
    expect(content).not.toContain('[200 100] 0 d');
    // The lines lie where the glyphs did: little of either is far from the other.
    const apart = await difference(rastered(plain, 40), rastered(stroked, 40));
    expect(apart.inked).toBeGreaterThan(0.02);
    expect(apart.mean).toBeLessThan(4);
  });

  it('leaves texts of other typefaces, and those with a character that it lacks, as they are', () => {
    const sans = lettered('sans');
    expect(strokeLettering(sans, shippedFonts())).toBe(sans);
    const page = strokeLettering(lettered('technical'), shippedFonts());
    const seen = page.texts.filter(({ unseen }) => !unseen).map(({ text }) => text);
    expect(seen).toEqual(['Größe Ø 40 ±5°', 'Αίθουσα αναμονής', 'Зал ожидания']);
  });
});

it('sets lines from right to left so that readers find their words: poppler and pdf.js', async () => {
  const builder = new PageBuilder(297, 210);
  const lines = ['חדר המתנה', 'غرفة الانتظار'];
  lines.forEach((line, i) => {
    const look = { lines: [line], font: 'sans', height: 5, widthFactor: 1, lineSpacing: 1 } as const;
    const map = { a: 1, b: 0, c: 0, d: 1, e: 20, f: 50 + 50 * i };
    for (const placed of placeLettering(shippedFonts(), { ...look, horizontal: 'left', vertical: 'baseline' }, map)) {
      builder.text(placed.text, placed.box, builder.layer('plan.dxf', 'A-NOTE'), builder.pen(0, 0));
    }
  });
  const path = await published('right-to-left', builder.build());
  const words = tool('pdftotext', path, '-').replace(/[\u202a-\u202e]/g, '');
  for (const line of lines) expect(words).toContain(line);
  expect((await found(path)).map(({ text }) => text)).toEqual(lines);
});
