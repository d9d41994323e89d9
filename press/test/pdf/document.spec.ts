import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import {
  PageBuilder,
  Path,
  PdfDocument,
  packParts,
  textRuns,
  unpackParts,
  writeContent,
  writePart,
  type Page,
  type PageFacts,
} from '@folvex/core';
import { pdfTools, sha256, shippedFonts } from '../../src/index';
import { tool } from '../support/published';

const FACTS = {
  title: 'Größe & <Maß>',
  author: 'Gannet & Loam',
  producer: 'Folvex',
  date: '2026-11-18',
  id: 'AB'.repeat(16),
};

function pageOf(texts: string[], size = { width: 420, height: 297 }): Page {
  const builder = new PageBuilder(size.width, size.height);
  const path = new Path();
  for (const [source, name] of [
    ['plan.dxf', 'A-WALL'],
    ['site.dxf', 'A-WALL'],
    ['plan.dxf', 'A-FURN'],
    ['', 'Frame'],
  ] as const) {
    path.clear();
    path.moveTo(10, 10);
    path.lineTo(50, 10);
    path.curveTo(60, 10, 60, 20, 50, 20);
    builder.stroke(path, builder.layer(source, name), builder.pen(0.35, 0x2f6690, name === 'A-FURN' ? [2, 1] : []));
  }
  texts.forEach((text, i) => {
    let x = 20;
    for (const run of textRuns(shippedFonts(), 'sans', text)) {
      const placed = {
        text: run.text,
        font: run.font,
        size: 5,
        a: 1,
        b: 0,
        c: 0,
        d: 1,
        x,
        y: 30 + 8 * i,
        advance: run.advance * 5,
      };
      const box = { xmin: x, ymin: 30, xmax: x + placed.advance, ymax: 40 };
      builder.text(placed, box, builder.layer('plan.dxf', 'A-NOTE'), builder.pen(0, 0));
      x += placed.advance;
    }
  });
  return builder.build();
}

async function write(pages: [Page, PageFacts][], layered = true): Promise<Uint8Array> {
  const tools = await pdfTools();
  const chunks: Uint8Array[] = [];
  const document = new PdfDocument({ write: (bytes) => void chunks.push(bytes.slice()) }, tools, FACTS);
  for (const [page, facts] of pages) document.addPage(writePart(page, tools.fonts, layered, tools.deflate), facts);
  const length = document.finish();
  const bytes = new Uint8Array(Buffer.concat(chunks));
  expect(bytes.length).toBe(length);
  return bytes;
}

const open = (bytes: Uint8Array) => getDocument({ data: bytes.slice(), verbosity: 0 }).promise;

/** Against pdf.js, an independent reader. */
describe('a written PDF', () => {
  const texts = ['Ticket hall 192.7 m²', 'Łódź Ωμέγα Кафе', '45° ±0.5 ⌀200 ∠'];
  const pages: [Page, PageFacts][] = [
    [pageOf(texts), { number: 'A-101', title: 'Ground floor (plan)' }],
    [pageOf(['Second'], { width: 841, height: 594 }), { number: 'A-102', title: 'Café \\ upper' }],
  ];

  it('gives back every text, in whatever script', async () => {
    const document = await open(await write(pages));
    const { items } = await (await document.getPage(1)).getTextContent();
    const found = items.map((item) => ('str' in item ? item.str : '')).join('');
    for (const text of texts) expect(found.replace(/\s/g, '')).toContain(text.replace(/\s/g, ''));
  });

  it('gives back characters that no typeface has, each as itself, by two readers', async () => {
    const bytes = await write([[pageOf(['日本 Plan 国']), { number: 'A-101', title: 'Plan' }]]);
    const { items } = await (await (await open(bytes)).getPage(1)).getTextContent();
    expect(items.map((item) => ('str' in item ? item.str : '')).join('')).toBe('日本 Plan 国');
    const folder = mkdtempSync(join(tmpdir(), 'folvex-glyphs-'));
    try {
      const file = join(folder, 'glyphs.pdf');
      writeFileSync(file, bytes);
      expect(tool('pdftotext', file, '-')).toContain('日本 Plan 国');
      expect(tool('qpdf', '--check', file)).toContain('No syntax');
      // Boxes are shown, as wide as the text is laid out.
      const box = /xMin="([\d.]+)"[^>]*xMax="([\d.]+)"[^>]*>日本</.exec(tool('pdftotext', '-bbox', file, '-'));
      expect(Number(box![2]) - Number(box![1])).toBeGreaterThan(1);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });

  it('has outline and page labels from the sheets', async () => {
    const document = await open(await write(pages));
    expect(await document.getPageLabels()).toEqual(['A-101', 'A-102']);
    const outline = await document.getOutline();
    expect(outline.map(({ title }) => title)).toEqual(['A-101  Ground floor (plan)', 'A-102  Café \\ upper']);
    const target = (outline[1]!.dest as unknown[])[0];
    expect(await document.getPageIndex(target as Parameters<typeof document.getPageIndex>[0])).toBe(1);
  });

  it('says the same in its information and its XMP', async () => {
    const document = await open(await write(pages));
    const { info, metadata } = await document.getMetadata();
    expect(info).toMatchObject({
      Title: FACTS.title,
      Author: FACTS.author,
      Producer: 'Folvex',
      CreationDate: 'D:20261118000000Z',
    });
    expect(metadata!.get('dc:title')).toBe(FACTS.title);
    expect(metadata!.get('xmp:createdate')).toBe('2026-11-18T00:00:00Z');
  });

  it('has one layer for each layer of each drawing, listed drawing by drawing', async () => {
    const document = await open(await write(pages));
    const layers = await document.getOptionalContentConfig();
    const listed = (layers.getOrder() as { name: string; order: string[] }[]).map(({ name, order }) => [
      name,
      order.map((id) => (layers.getGroup(id) as { name: string }).name),
    ]);
    expect(listed).toEqual([
      ['Sheet', ['Frame']],
      ['plan.dxf', ['A-FURN', 'A-NOTE', 'A-WALL']],
      ['site.dxf', ['A-WALL']],
    ]);
  });

  it('has none where none are wanted', async () => {
    const document = await open(await write(pages, false));
    expect((await document.getOptionalContentConfig()).getOrder()).toBeNull();
  });

  it('measures exactly, also beyond the largest side that a PDF may have', async () => {
    const document = await open(
      await write([[pageOf([], { width: 20_000, height: 900 }), { number: 'L', title: 'Long' }]]),
    );
    const page = await document.getPage(1);
    // 20 m are 56 692.9 pt: 14 400 units at most, so a unit of 4 pt (ISO 32000-2, table 31).
    expect(page.userUnit).toBe(4);
    expect(((page.view[2]! * page.userUnit) / 72) * 25.4).toBeCloseTo(20_000, 2);
  });

  it('is the same bytes from the same input', async () => {
    expect(sha256(await write(pages))).toBe(sha256(await write(pages)));
  });
});

describe('a content stream', () => {
  const content = (page: Page): string =>
    Buffer.from(writeContent(page, shippedFonts(), true).bytes).toString('latin1');

  it('holds whole numbers under one matrix, and says nothing twice', () => {
    const text = content(pageOf([]));
    expect(text).toMatch(/^0\.0283464567 0 0 0\.0283464567 0 0 cm\n/);
    expect(text).toContain('1000 1000 m\n5000 1000 l\n6000 1000 6000 2000 5000 2000 c\nS\n');
    expect(text.match(/35 w/g)).toHaveLength(1);
    expect(text.match(/ RG/g)).toHaveLength(1);
    expect(text).toContain('[200 100] 0 d');
    expect(text.match(/BDC/g)).toHaveLength(text.match(/EMC/g)!.length);
  });

  it('gathers strokes of one pen into one path', () => {
    const builder = new PageBuilder(100, 100);
    const path = new Path();
    for (let i = 0; i < 1000; i++) {
      path.clear();
      path.moveTo(0, i / 10);
      path.lineTo(90, i / 10);
      builder.stroke(path, builder.layer('', 'a'), builder.pen(0.2, 0));
    }
    expect(content(builder.build()).match(/^S$/gm)).toHaveLength(3);
  });

  it('restores the state around a clip', () => {
    const builder = new PageBuilder(100, 100);
    const path = new Path();
    path.moveTo(0, 5);
    path.lineTo(90, 5);
    const stroke = (): void => builder.stroke(path, builder.layer('', 'a'), builder.pen(0.2, 0xff0000));
    stroke();
    builder.clipTo({ xmin: 10, ymin: 0, xmax: 20, ymax: 10 });
    stroke();
    builder.endClip();
    stroke();
    const text = content(builder.build());
    expect(text).toContain('q 1000 0 1000 1000 re W n\n');
    expect(text.match(/^Q$/gm)).toHaveLength(1);
    // The pen was set before the clip and is still set behind it.
    expect(text.match(/ RG/g)).toHaveLength(1);
  });
});

describe('a packed part', () => {
  it('comes back whole', async () => {
    const { fonts, deflate } = await pdfTools();
    const part = writePart(pageOf(['Café']), fonts, true, deflate);
    const unpacked = unpackParts(packParts([part, part]));
    expect(unpacked).toEqual([part, part].map((one) => ({ ...one, content: expect.any(Uint8Array) })));
    for (const { content } of unpacked) expect(Buffer.from(content).equals(Buffer.from(part.content))).toBe(true);
  });
});
