import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { textAdvance, type LinkLook, type MeasuredArea } from '@folvex/core';
import { shippedFonts } from '../../src/index';
import { MM_PER_POINT, tool } from '../support/published';
import { linksOf, sheet, written } from '../support/written';

describe('links', () => {
  const texts = ['See 3/A-501 and a-201.', 'https://example.org/plan', 'A-999, 3600 wide', 'A-101'];
  const sheets = [
    { sheet: sheet('a', 'A-101'), texts },
    { sheet: sheet('b', 'A-201'), texts: ['Elevation'] },
    { sheet: sheet('c', 'A-501'), texts: ['Details'] },
  ];

  it('lead to the pages of one file, and to addresses; not to the page itself, nor to anything but sheets', async () => {
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
