import { readFileSync } from 'node:fs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { MeasuredArea, Recipe } from '@folvex/core';
import { tool } from '../support/published';
import { sheet, written } from '../support/written';

const sheets = [
  { sheet: sheet('a', 'A-101'), texts: ['Plan'] },
  { sheet: sheet('b', 'A-102'), texts: ['Section'] },
];

async function published(name: string, recipe: Partial<Recipe>): Promise<string> {
  const [path] = await written({ sheets, files: [{ path: `${name}.pdf`, sheets: ['a', 'b'] }], recipe });
  expect(tool('qpdf', '--check', path!)).toContain('No syntax or stream encoding errors');
  return path!;
}

/** The document as pdf.js reads it. */
function read(path: string) {
  return getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0 }).promise;
}

/** Dictionaries by qpdf, spaces and line ends alike. */
function plain(path: string): string {
  return tool('qpdf', '--qdf', '--object-streams=disable', path, '-').replace(/\s+/g, ' ');
}

describe('how a file opens', () => {
  it.each<[Recipe['opens'], unknown[]]>([
    [undefined, [{ name: 'Fit' }]],
    ['width', [{ name: 'FitH' }, 841.89]],
    ['full-size', [{ name: 'XYZ' }, 0, 841.89, 1]],
  ])('%s', async (opens, view) => {
    const document = await read(await published(`opens-${opens}`, opens ? { opens } : {}));
    const action = (await document.getOpenAction()) as { dest: unknown[] };
    const [page, ...rest] = action.dest;
    expect(await document.getPageIndex(page as Parameters<typeof document.getPageIndex>[0])).toBe(0);
    expect(rest).toMatchObject(view.map((one) => (typeof one === 'number' ? expect.closeTo(one, 1) : one)));
  });

  it('is with the outline, its title above', async () => {
    const document = await read(await published('mode', {}));
    expect(await document.getPageMode()).toBe('UseOutlines');
    expect(await document.getViewerPreferences()).toMatchObject({ DisplayDocTitle: true });
  });

  it('is without bookmarks of views, or without any, where a recipe says so', async () => {
    const path = await published('no-bookmarks', { bookmarks: 'none' });
    expect(await (await read(path)).getOutline()).toBeNull();
    expect(await (await read(path)).getPageMode()).toBe('UseNone');
    const area = { box: [20, 20, 200, 100], scale: 0.02, words: '1:50', unit: 'm' } satisfies Partial<MeasuredArea>;
    const measured = { ...sheets[0]!, measured: ['Plan', 'Detail'].map((name) => ({ ...area, name })) };
    const [all, only] = await Promise.all(
      (['views', 'sheets'] as const).map(async (bookmarks) => {
        const [file] = await written({
          sheets: [measured],
          files: [{ path: `bookmarks-${bookmarks}.pdf`, sheets: ['a'] }],
          recipe: bookmarks === 'sheets' ? { bookmarks } : {},
        });
        return (await (await read(file!)).getOutline()).map(({ items }) => items.length);
      }),
    );
    expect([all, only]).toEqual([[2], [0]]);
  });

  it('is with turned pages where a recipe turns them, by poppler', async () => {
    const path = await published('turned', { turn: 90 });
    const said = tool('pdfinfo', path);
    expect(said).toMatch(/Page rot:\s+90/);
    expect(said).toMatch(/Page size:\s+1190\.55 x 841\.89 pts/);
  });
});

describe('states of layers', () => {
  it('keep those locked that a recipe names', async () => {
    const text = plain(await published('locked', { layersLocked: ['no*'] }));
    const [, group] = /(\d+) 0 obj << \/Name \(Notes\) \/Type \/OCG/.exec(text)!;
    expect(text).toContain(`/Locked [ ${group} 0 R ]`);
  });

  it('have others print that are not seen on screen: pdf.js for either use', async () => {
    const path = await published('print-only', { layersPrintOnly: ['Notes'] });
    const document = await read(path);
    const visible = async (intent: 'display' | 'print'): Promise<boolean> => {
      const config = await document.getOptionalContentConfig({ intent });
      const [[, group]] = [...config] as [[string, { visible: boolean }]];
      return group.visible;
    };
    expect([await visible('display'), await visible('print')]).toEqual([false, true]);
  });

  it('leave out in files to keep what those may not have (ISO 19005-2, 6.9)', async () => {
    const text = plain(await published('kept', { layersPrintOnly: ['Notes'], version: 'A-2b' }));
    expect(text).toContain('/Type /OCG');
    expect(text).not.toMatch(/\/AS |\/Usage/);
  });
});
