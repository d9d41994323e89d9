import { readFileSync } from 'node:fs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { lockFor, protectionOf } from '../../src/pdf/protect';
import { difference, rastered, tool } from '../support/published';
import { sheet, written } from '../support/written';

const sheets = Array.from({ length: 7 }, (_, i) => ({
  sheet: sheet(`s${i}`, `A-10${i}`, i < 4 ? 'g' : 'h'),
  // Letters that some pages share and others do not; links forward and backward.
  texts: [`Plan ${'ABCDEFG'[i]}`, `see A-10${(i + 3) % 7}`, i % 2 ? 'Größe ⌀' : 'Αίθουσα', '(a) \\ b'],
}));
const order = sheets.map((one) => one.sheet.id);

async function published(name: string, pages = order, more: object = {}): Promise<string> {
  const [path] = await written({
    sheets: sheets.filter((one) => pages.includes(one.sheet.id)),
    files: [{ path: `${name}.pdf`, sheets: pages }],
    recipe: { linearised: true, links: 'tinted' },
    ...more,
  });
  return path!;
}

describe('a linearised file', () => {
  it.each([
    ['of one page', ['s0']],
    ['of two', ['s0', 's1']],
    ['of seven', order],
  ])('%s has the order and the hints that qpdf works out by itself', async (name, pages) => {
    const path = await published(name.replaceAll(' ', '-'), pages);
    expect(tool('qpdf', '--check', path)).toContain('No syntax or stream encoding errors');
    expect(tool('qpdf', '--check-linearization', path)).toBe(`${path}: no linearization errors\n`);
    expect(tool('pdfinfo', path)).toMatch(/Optimized:\s+yes/);
  });

  it('shows what the same file as usual does', async () => {
    const linear = await published('linear');
    const usual = await published('usual', order, { recipe: { links: 'tinted' } });
    expect(tool('pdftotext', linear, '-')).toBe(tool('pdftotext', usual, '-'));
    for (const page of [1, 7]) {
      const apart = await difference(rastered(linear, 60, page), rastered(usual, 60, page));
      expect(apart.inked).toBeGreaterThan(0);
      expect(apart.mean).toBe(0);
    }
    const document = await getDocument({ data: new Uint8Array(readFileSync(linear)), verbosity: 0 }).promise;
    expect((await document.getOutline()).map(({ title }) => title)).toEqual(['Plans', 'Details']);
  });

  it('may be protected: its strings are enciphered too, which then stand apart', async () => {
    const lock = lockFor({ open: 'pier', change: '' }, { print: true, change: false, copy: false });
    const path = await published('locked', order, { protection: protectionOf(lock) });
    expect(tool('qpdf', '--password=pier', '--check', path)).toContain('No syntax or stream encoding errors');
    expect(tool('qpdf', '--password=pier', '--check-linearization', path)).toContain('no linearization errors');
    expect(readFileSync(path, 'latin1')).not.toContain('Plans');
    const document = await getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0, password: 'pier' })
      .promise;
    expect((await document.getOutline()).map(({ title }) => title)).toEqual(['Plans', 'Details']);
    expect(await document.getPageLabels()).toEqual(sheets.map((one) => one.sheet.number));
  });
});
