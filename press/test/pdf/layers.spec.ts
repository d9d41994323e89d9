import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { composeSheet, PdfDocument, writePart, type Sheet, type View } from '@folvex/core';
import { pdfTools, shippedFonts } from '../../src/index';
import { drawingOf, ownFolder, SHEET, tool } from '../support/published';

const folder = ownFolder();

/** A plan of two layers that are on, one that is off, one frozen one with a block on it, and one that never plots. */
function plan(): string {
  const layer = (name: string, more = ''): string => `0\nLAYER\n2\n${name}\n${more}`;
  const line = (name: string, y: number): string => `0\nLINE\n8\n${name}\n10\n0\n20\n${y}\n11\n100\n21\n${y}\n`;
  const layers = [
    layer('A-WALL'),
    layer('A-FURN'),
    layer('A-OFF', '62\n-7\n'),
    layer('A-COLD', '70\n1\n'),
    layer('A-AIDS', '290\n0\n'),
  ];
  const block = `0\nBLOCK\n8\n0\n2\nCHAIR\n10\n0\n20\n0\n${line('A-WALL', 0)}0\nENDBLK\n`;
  const entities = ['A-WALL', 'A-FURN', 'A-OFF', 'A-AIDS'].map((name, i) => line(name, 10 * i)).join('');
  return (
    `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n${layers.join('')}0\nENDTAB\n0\nENDSEC\n` +
    `0\nSECTION\n2\nBLOCKS\n${block}0\nENDSEC\n` +
    `0\nSECTION\n2\nENTITIES\n${entities}0\nINSERT\n8\nA-COLD\n2\nCHAIR\n10\n0\n20\n50\n0\nENDSEC\n0\nEOF\n`
  );
}

const view = (id: string, label: string, layersOff: string[], y: number): View => ({
  id,
  drawing: 'd',
  space: 'model',
  window: [-5, -5, 105, 60],
  scale: '1:1',
  at: [10, y],
  layersOff,
  label,
});

async function publishedWith(everything: boolean, layersByView: boolean): Promise<string> {
  const drawing = await drawingOf(new TextEncoder().encode(plan()), 'plan.dxf');
  const sheet: Sheet = {
    ...SHEET,
    number: 'A-101',
    paper: { size: [200, 200] },
    views: [view('a', 'Plan', [], 20), view('b', 'Bare', ['A-FURN'], 110)],
  };
  const project = { number: '', name: '', client: '', fields: {} };
  const source = () => ({ drawing, unit: drawing.unit });
  const { page } = composeSheet({ project, sheet, everything, fonts: shippedFonts(), source });
  const tools = await pdfTools();
  const chunks: Uint8Array[] = [];
  const facts = { title: 't', author: '', producer: 'Folvex', date: '', id: 'EF'.repeat(16) };
  const document = new PdfDocument({ write: (bytes) => chunks.push(bytes.slice()) }, tools, facts, {
    layers: { byView: layersByView },
  });
  document.addPage(writePart(page, tools.fonts, true, tools.deflate), { number: 'A-101', title: '' });
  document.finish();
  const path = join(folder, `${everything}-${layersByView}.pdf`);
  writeFileSync(path, Buffer.concat(chunks));
  expect(tool('qpdf', '--check', path)).toContain('No syntax or stream encoding errors');
  return path;
}

/** What pdf.js lists: names of layers under their headings, and whether each is on. */
async function listed(path: string): Promise<[string, [string, boolean][]][]> {
  const document = await getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0 }).promise;
  const config = (await document.getOptionalContentConfig()) as unknown as {
    getOrder(): ({ name: string; order: unknown[] } | string)[];
    getGroup(id: string): { name: string; visible: boolean };
  };
  const groupsOf = (order: unknown[]): [string, boolean][] =>
    order.flatMap((one) => {
      if (typeof one !== 'string') return groupsOf((one as { order: unknown[] }).order);
      const { name, visible } = config.getGroup(one);
      return [[name, visible]] as [string, boolean][];
    });
  return config.getOrder().map((one) => {
    const { name, order } = one as { name: string; order: unknown[] };
    return [name, groupsOf(order)];
  });
}

const drawn = (all: [string, [string, boolean][]][]): [string, boolean][] =>
  all.find(([name]) => name === 'plan.dxf')![1];

describe('layers of a published file', () => {
  it('are those that are shown, one for both views', async () => {
    expect(drawn(await listed(await publishedWith(false, false)))).toEqual([
      ['A-FURN', true],
      ['A-WALL', true],
    ]);
  });

  it('are all that plot, the hidden ones off; what one view hides and another shows is two', async () => {
    expect(drawn(await listed(await publishedWith(true, false)))).toEqual([
      ['A-COLD (hidden in Bare)', false],
      ['A-COLD (hidden in Plan)', false],
      ['A-FURN', true],
      ['A-FURN (hidden in Bare)', false],
      ['A-OFF (hidden in Bare)', false],
      ['A-OFF (hidden in Plan)', false],
      ['A-WALL', true],
    ]);
  });

  it('are listed by view under their drawing where that is wanted', async () => {
    const path = await publishedWith(true, true);
    expect(drawn(await listed(path))).toEqual([
      ['A-COLD', false],
      ['A-FURN', false],
      ['A-OFF', false],
      ['A-WALL', true],
      ['A-COLD', false],
      ['A-FURN', true],
      ['A-OFF', false],
      ['A-WALL', true],
    ]);
    const text = tool('qpdf', '--qdf', '--object-streams=disable', path, '-').replace(/\s+/g, ' ');
    expect(text).toContain('(Bare)');
  });

  it('have "as shown" and "everything on" as states, by qpdf', async () => {
    const path = await publishedWith(true, false);
    const { qpdf } = JSON.parse(tool('qpdf', '--json', path)) as {
      qpdf: [unknown, Record<string, { value?: Record<string, unknown> }>];
    };
    const catalog = Object.values(qpdf[1]).find(({ value }) => value?.['/Type'] === '/Catalog')!.value!;
    const properties = catalog['/OCProperties'] as Record<string, Record<string, unknown>> & {
      '/Configs': Record<string, unknown>[];
    };
    expect(properties['/D']).toMatchObject({ '/Name': 'u:As shown' });
    expect(properties['/D']!['/OFF']).toHaveLength(5);
    expect(properties['/Configs']).toMatchObject([
      { '/Name': 'u:As shown' },
      { '/Name': 'u:Everything on', '/BaseState': '/ON' },
    ]);
  });

  it('hide what a hidden reference holds: it is painted only once its layer is on', async () => {
    const path = await publishedWith(true, false);
    const png = (name: string): Buffer => {
      tool('pdftoppm', '-png', '-r', '50', '-singlefile', path, join(folder, name));
      return readFileSync(join(folder, `${name}.png`));
    };
    const shown = await publishedWith(false, false);
    tool('pdftoppm', '-png', '-r', '50', '-singlefile', shown, join(folder, 'shown'));
    // poppler and MuPDF open the file as it is shown: the hidden layers change nothing.
    expect(png('all').equals(readFileSync(join(folder, 'shown.png')))).toBe(true);
    const drawn = (file: string): Buffer => {
      tool('mutool', 'draw', '-q', '-r', '50', '-o', join(folder, 'mupdf.png'), file);
      return readFileSync(join(folder, 'mupdf.png'));
    };
    expect(drawn(path).equals(drawn(shown))).toBe(true);
  });
});
