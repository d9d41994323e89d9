import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { PdfDocument, unpackParts, type Sheet } from '@folvex/core';
import { pdfTools, sha256 } from '../../src/index';
import { MM_PER_POINT, ownFolder, SHEET, tool } from '../support/published';
import { makePart } from '../support/make-part';

const folder = ownFolder();

/** A drawing of one line, 400 m long, along a sheet of A1. */
function oneLine(): string {
  const entity = '0\nLINE\n8\nA-AXIS\n10\n0\n20\n0\n11\n400\n21\n0\n';
  return `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n6\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entity}0\nENDSEC\n0\nEOF\n`;
}

describe('a sheet published on several pages', () => {
  it('has each page on the paper, at true size, with what overlaps on both, as poppler and MuPDF see it', async () => {
    const path = join(folder, 'axis.dxf');
    writeFileSync(path, oneLine());
    const sheet: Sheet = {
      ...SHEET,
      number: 'A-101',
      paper: { name: 'A1', orientation: 'landscape' },
      views: [
        {
          id: 'v',
          drawing: 'd',
          space: 'model',
          window: 'extents',
          scale: '1:500',
          at: [20, 300],
          layersOff: [],
          label: '',
        },
      ],
    };
    const made = await makePart({
      project: { number: '', name: '', client: '', fields: {} },
      sheet,
      recipe: { id: '', name: '', colour: 'full', layers: 'shown' },
      tiling: { paper: { width: 420, height: 297 }, overlap: 20 },
      drawings: [{ id: 'd', name: 'axis.dxf', path, hash: sha256(readFileSync(path)), unit: undefined }],
      folder,
    });
    if (!made.ok) throw new Error(made.problem.sentence);
    const parts = unpackParts(readFileSync(made.value.temporary));
    const chunks: Uint8Array[] = [];
    const facts = { title: 't', author: '', producer: 'Folvex', date: '', id: 'CD'.repeat(16) };
    const document = new PdfDocument({ write: (bytes) => chunks.push(bytes.slice()) }, await pdfTools(), facts);
    parts.forEach((part, i) => document.addPage(part, { number: `A-101 (${i + 1}/${parts.length})`, title: '' }));
    document.finish();
    const pdf = join(folder, 'tiles.pdf');
    writeFileSync(pdf, Buffer.concat(chunks));

    const info = tool('pdfinfo', '-f', '1', '-l', '99', pdf);
    const sizes = [...info.matchAll(/Page +\d+ size: +([\d.]+) x ([\d.]+)/g)].map(([, w, h]) =>
      [Number(w) * MM_PER_POINT, Number(h) * MM_PER_POINT].sort((a, b) => a - b),
    );
    expect(sizes).toHaveLength(parts.length);
    for (const [short, long] of sizes) {
      expect(Math.abs(short! - 297)).toBeLessThan(0.1);
      expect(Math.abs(long! - 420)).toBeLessThan(0.1);
    }
    for (let page = 1; page <= parts.length; page++) {
      expect(tool('pdftotext', '-f', String(page), '-l', String(page), pdf, '-')).toContain('A-101 row');
    }
    expect(() => tool('qpdf', '--check', pdf)).not.toThrow();
    // The line is 800 mm long on every page that shows it (ISO 5455: 400 m at 1:500), cut by the page's clip only.
    const trace = tool('mutool', 'draw', '-F', 'trace', '-o', '-', pdf);
    const lengths = [
      ...trace.matchAll(
        /<stroke_path[^>]*transform="([^"]+)"[^>]*>\s*<moveto x="([^"]+)" y="[^"]+"\/>\s*<lineto x="([^"]+)"/g,
      ),
    ]
      .map(([, map, from, to]) => (Number(to) - Number(from)) * Number(map!.split(' ')[0]) * MM_PER_POINT)
      .filter((length) => length > 100);
    expect(lengths.length).toBeGreaterThan(1);
    for (const length of lengths) expect(Math.abs(length - 800)).toBeLessThan(0.02);
  });
});
