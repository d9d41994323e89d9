import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { STANDARD_RECIPE, unpackPage, unpackParts, type Page, type Sheet } from '@folvex/core';
import { makePage, sha256, sourceId, type DrawingFile } from '../../src/index';
import { readFileSync } from 'node:fs';
import { ownFolder, SHEET } from '../support/published';
import { makePart } from '../support/make-part';

const folder = ownFolder();
const PROJECT = { number: '', name: '', client: '', fields: {} };

function file(name: string, bytes: string | Uint8Array): DrawingFile {
  const path = join(folder, name);
  writeFileSync(path, bytes);
  return { id: name, name, path, hash: sha256(Buffer.from(bytes as string)), unit: 'mm' };
}

const sheet: Sheet = {
  ...SHEET,
  number: 'A-1',
  paper: { size: [300, 200] },
  views: [
    {
      id: 'v',
      drawing: 'host.dxf',
      space: 'model',
      window: [0, 0, 200, 100],
      scale: '1:1',
      at: [0, 0],
      layersOff: [],
      label: '',
    },
  ],
};

async function pageOf(drawings: DrawingFile[], referable: DrawingFile[] = []): Promise<Page> {
  const made = await makePage({ project: PROJECT, sheet, recipe: STANDARD_RECIPE, drawings, referable });
  if (!made.ok) throw new Error(made.problem.sentence);
  return unpackPage(made.value.page);
}

/** An IMAGE of 4 × 2 pixels, each 10 units, its lower left corner at (20, 30); clipped to its left half where asked. */
const image = (clipped: boolean): string =>
  `0\nIMAGE\n5\nA1\n8\nPIC\n10\n20\n20\n30\n11\n10\n21\n0\n12\n0\n22\n10\n13\n4\n23\n2\n340\nD1\n70\n${clipped ? 7 : 3}\n280\n${clipped ? 1 : 0}\n71\n1\n91\n2\n14\n-0.5\n24\n-0.5\n14\n1.5\n24\n1.5\n`;
const host = (entities: string, blocks = ''): string =>
  `0\nSECTION\n2\nBLOCKS\n${blocks}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nSECTION\n2\nOBJECTS\n0\nIMAGEDEF\n5\nD1\n1\nC:\\jobs\\Logo.PNG\n0\nENDSEC\n0\nEOF\n`;

describe('a picture in a file of its own', () => {
  it('is a crossed box with its name until that file is there', async () => {
    const page = await pageOf([file('host.dxf', host(image(false)))]);
    expect(page.pictures).toEqual([]);
    expect(page.texts.map(({ text }) => text)).toEqual(['Logo.PNG']);
    expect(page.markCount).toBe(2);
  });

  it('is warned of until that file is there', async () => {
    const drawings = [file('host.dxf', host(image(false)))];
    const warningsWith = async (referable: DrawingFile[]) => {
      const made = await makePage({ project: PROJECT, sheet, recipe: STANDARD_RECIPE, drawings, referable });
      return made.ok && made.value.warnings;
    };
    expect(await warningsWith([])).toMatchObject([{ code: 'dxf.picture', place: { file: 'host.dxf' } }]);
    const png = await sharp({ create: { width: 4, height: 2, channels: 3, background: '#268' } })
      .png()
      .toBuffer();
    expect(await warningsWith([file('logo.png', png)])).toEqual([]);
  });

  it('is shown once it is, at its place and size, whatever the case of its name', async () => {
    const png = await sharp({ create: { width: 4, height: 2, channels: 3, background: '#268' } })
      .png()
      .toBuffer();
    const drawings = [file('host.dxf', host(image(false)))];
    const logo = file('logo.png', png);
    const page = await pageOf(drawings, [logo]);
    expect(page.pictures).toEqual([{ kind: 'png', page: 1, drawing: logo.hash, index: 0 }]);
    expect(page.placed).toEqual([{ picture: 0, a: 4000, b: 0, c: 0, d: 2000, e: 2000, f: 3000 }]);
    const made = await makePart({
      project: PROJECT,
      sheet,
      recipe: STANDARD_RECIPE,
      drawings,
      referable: [logo],
      folder,
    });
    if (!made.ok) throw new Error(made.problem.sentence);
    expect(unpackParts(readFileSync(made.value.temporary))[0]!.pictures).toHaveLength(1);
  });

  it('is clipped by its outline where that is on: pixels are counted from the top', async () => {
    const png = await sharp({ create: { width: 4, height: 2, channels: 3, background: '#268' } })
      .png()
      .toBuffer();
    const page = await pageOf([file('host.dxf', host(image(true)))], [file('logo.png', png)]);
    const [outline] = page.clips[page.clip[0]! - 1]!.slice(-1);
    expect(outline).toEqual([[2000, 5000, 4000, 5000, 4000, 3000, 2000, 3000]]);
  });
});

describe('a drawing behind an external block', () => {
  const other = `0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n0\nLAYER\n2\nKERB\n62\n1\n70\n0\n0\nENDTAB\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nLINE\n8\nKERB\n10\n0\n20\n0\n11\n50\n21\n0\n0\nLINE\n8\n0\n10\n0\n20\n9\n11\n50\n21\n9\n0\nENDSEC\n0\nEOF\n`;
  const block = `0\nBLOCK\n8\n0\n2\nSURVEY\n70\n4\n10\n0\n20\n0\n1\n../in/survey.dxf\n0\nENDBLK\n`;
  const insert = '0\nINSERT\n8\nX-REF\n2\nSURVEY\n10\n100\n20\n20\n';

  it('is shown once it is there, on layers named after both', async () => {
    const drawings = [file('host.dxf', host(insert, block))];
    expect((await pageOf(drawings)).markCount).toBe(0);
    const page = await pageOf(drawings, [file('survey.dxf', other)]);
    expect(page.markCount).toBe(2);
    // Layer 0 of the other takes over the layer of the reference.
    expect(page.layers.map(({ name }) => name)).toEqual(['SURVEY|KERB', 'X-REF']);
    expect([...page.coords.slice(0, 4)]).toEqual([10_000, 2000, 15_000, 2000]);
    expect(page.pens[page.pen[0]!]!.colour).toBe(0xff0000);
  });

  it('that refers back is shown once, not for ever', async () => {
    const back = host(
      '0\nINSERT\n8\n0\n2\nHOST\n10\n0\n20\n0\n',
      block.replace('SURVEY', 'HOST').replace('survey', 'host'),
    );
    const page = await pageOf([file('host.dxf', host(insert, block))], [file('survey.dxf', back)]);
    expect(page.markCount).toBe(0);
  });

  it('shows what that one refers to in turn', async () => {
    const inner = host(
      insert.replace('X-REF', 'N-REF').replace('SURVEY', 'TREES'),
      block.replace('SURVEY', 'TREES').replace('survey', 'trees'),
    );
    const page = await pageOf(
      [file('host.dxf', host(insert, block))],
      [file('survey.dxf', inner), file('trees.dxf', other)],
    );
    expect(page.markCount).toBe(2);
    // Both references shift by (100, 20).
    expect([...page.coords.slice(0, 4)]).toEqual([20_000, 4000, 25_000, 4000]);
  });
});

describe('two versions of one PDF on a sheet, one of them held', () => {
  it('are both placed, each with its own page', async () => {
    const { PDFDocument } = await import('@cantoo/pdf-lib');
    const pdf = async (words: string): Promise<Uint8Array> => {
      const document = await PDFDocument.create();
      document.addPage([200, 100]).drawText(words, { x: 10, y: 50 });
      return document.save();
    };
    const [now, then] = [file('now.pdf', await pdf('now')), file('then.pdf', await pdf('then'))];
    const drawings = [
      { ...now, id: 'p', name: 'plan.pdf' },
      { ...then, id: sourceId('p', 1), name: 'plan.pdf' },
    ];
    const view = { ...sheet.views[0]!, drawing: 'p', window: 'extents' as const, at: [0, 0] as [number, number] };
    const both = { ...sheet, views: [view, { ...view, id: 'w', at: [100, 0] as [number, number], held: 1 }] };
    const made = await makePart({ project: PROJECT, sheet: both, recipe: STANDARD_RECIPE, drawings, folder });
    if (!made.ok) throw new Error(made.problem.sentence);
    const { pictures } = unpackParts(readFileSync(made.value.temporary))[0]!;
    expect(new Set(pictures.map(({ key }) => key.split(' ')[0]))).toEqual(new Set([now.hash, then.hash]));
  });
});
