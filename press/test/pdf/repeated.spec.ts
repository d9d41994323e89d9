import { readFileSync } from 'node:fs';
import {
  composeSheet,
  FRAME_LAYER,
  PageBuilder,
  Path,
  TITLE_LAYER,
  unpackParts,
  packParts,
  writePart,
  type Page,
} from '@folvex/core';
import { deflate, shippedFonts } from '../../src/index';
import { difference, rastered, SHEET, tool } from '../support/published';
import { sheet, written } from '../support/written';

/** A sheet with frame, marks and title block, and nothing else. */
function framed(number: string): Page {
  return composeSheet({
    project: { number: '24-017', name: 'Pier', client: 'Harbour', fields: {} },
    sheet: {
      ...SHEET,
      number,
      title: `Sheet ${number}`,
      paper: { name: 'A3', orientation: 'landscape' },
      frame: 'iso5457',
      marks: ['grid', 'centring', 'trimming'],
      titleBlock: { template: 'corner', fields: {} },
    },
    fonts: shippedFonts(),
    source: () => undefined,
  }).page;
}

/** The same page, its layers named so that nobody takes them for those that sheets have alike. */
function plain(page: Page): Page {
  const names: Record<string, string> = { [FRAME_LAYER]: 'Border', [TITLE_LAYER]: 'Stamp' };
  return { ...page, layers: page.layers.map((layer) => ({ ...layer, name: names[layer.name] ?? layer.name })) };
}

async function published(name: string, pages: Page[]): Promise<string> {
  const sheets = pages.map((page, i) => ({ sheet: sheet(`s${i}`, `A-10${i}`), page }));
  const [path] = await written({ sheets, files: [{ path: name, sheets: sheets.map((one) => one.sheet.id) }] });
  expect(tool('qpdf', '--check', path!)).toContain('No syntax or stream encoding errors');
  return path!;
}

function formsOf(path: string): number {
  return tool('qpdf', '--qdf', '--object-streams=disable', path, '-').match(/\/Subtype \/Form/g)?.length ?? 0;
}

describe('frames and title blocks', () => {
  const pages = ['A-101', 'A-102', 'A-103'].map(framed);

  it('are written once in a file of several sheets, and look as if written on each', async () => {
    const [once, each] = [await published('once.pdf', pages), await published('each.pdf', pages.map(plain))];
    expect([formsOf(once), formsOf(each)]).toEqual([2, 0]);
    for (const page of [1, 3]) {
      const apart = await difference(rastered(once, 100, page), rastered(each, 100, page));
      expect(apart.inked).toBeGreaterThan(0.01);
      expect(apart.strong).toBe(0);
    }
    expect(tool('pdftotext', '-raw', once, '-').split(/\s+/).sort()).toEqual(
      tool('pdftotext', '-raw', each, '-').split(/\s+/).sort(),
    );
  });

  it('have the corners of their own lines, whatever was drawn before them', async () => {
    const pointed = (layer: string): Page => {
      const builder = new PageBuilder(100, 100);
      const spike = (x: number): Path => {
        const path = new Path();
        path.moveTo(x, 10);
        path.lineTo(x + 5, 40);
        path.lineTo(x + 10, 10);
        return path;
      };
      const cut = { cap: 'butt', join: 'miter', miterLimit: 1.5 } as const;
      builder.stroke(spike(10), builder.layer('plan', 'A-WALL'), builder.pen(3, 0, [], false, 100, { shape: cut }));
      // Enough marks to be worth an object of their own.
      for (let i = 0; i < 20; i++)
        builder.stroke(spike(40 + i), builder.layer('', layer), builder.pen(2, 0, [], false));
      return builder.build();
    };
    const [once, each] = [
      await published('pointed.pdf', [pointed(FRAME_LAYER)]),
      await published('pointed-each.pdf', [pointed('Border')]),
    ];
    expect([formsOf(once), formsOf(each)]).toEqual([1, 0]);
    const apart = await difference(rastered(once, 100), rastered(each, 100));
    expect([apart.inked > 0.01, apart.strong]).toEqual([true, 0]);
  });

  it('make a file of many sheets smaller', async () => {
    const many = Array.from({ length: 12 }, (_, i) => framed(`A-${i + 1}`));
    const [once, each] = [await published('many.pdf', many), await published('many-each.pdf', many.map(plain))];
    expect(readFileSync(once).length).toBeLessThan(0.75 * readFileSync(each).length);
  });

  it('stay switchable as layers: the form is drawn inside its layer', async () => {
    const path = await published('layers.pdf', pages.slice(0, 1));
    const content = tool('mutool', 'show', '-b', path, 'pages/1/Contents');
    expect(content).toMatch(/\/OC \/L\d+ BDC\n\/R0 Do\n/);
  });

  it('survive being packed for the store', () => {
    const part = writePart(pages[0]!, shippedFonts(), true, deflate);
    const [back] = unpackParts(packParts([part, part]));
    expect(back!.repeated.map(({ fonts }) => fonts)).toEqual(part.repeated.map(({ fonts }) => fonts));
    expect(back!.repeated.map(({ content }) => Buffer.from(content).toString('hex'))).toEqual(
      part.repeated.map(({ content }) => Buffer.from(content).toString('hex')),
    );
  });
});
