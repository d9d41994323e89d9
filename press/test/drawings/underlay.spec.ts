import { PDFDocument, rgb } from '@cantoo/pdf-lib';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { STANDARD_RECIPE, type Sheet } from '@folvex/core';
import { inspectDrawing, makePage, sha256, type DrawingFile } from '../../src/index';
import { ownFolder, SHEET, tool } from '../support/published';
import { unpackPage, type Page } from '@folvex/core';

const folder = ownFolder();

/** Written by ezdxf, an independent library: the second page of a PDF, an inch of it 25.4 units, turned by a quarter. */
const WRITE = `
import sys, ezdxf
doc = ezdxf.new('R2010')
doc.header['$INSUNITS'] = 4
definition = doc.add_underlay_def(filename='C:\\\\jobs\\\\Site survey.pdf', fmt='pdf', name='2')
msp = doc.modelspace()
place = dict(insert=(100, 20, 0), scale=25.4, rotation=90)
underlay = msp.add_underlay(definition, **place)
if sys.argv[2] == 'clipped':
    underlay.set_boundary_path([(0.5, 0.25), (1.5, 1)])
    underlay.dxf.flags = 3
if sys.argv[2] == 'faded':
    underlay.dxf.fade = 40
if sys.argv[2] == 'monochrome':
    underlay.dxf.flags = 6
if sys.argv[2] == 'off':
    underlay.dxf.flags = 0
doc.saveas(sys.argv[1])
`;

function host(kind: string): DrawingFile {
  const path = join(folder, `${kind}.dxf`);
  tool('/usr/bin/python3', '-c', WRITE, path, kind);
  return { id: 'host', name: 'host.dxf', path, hash: sha256(readFileSync(path)), unit: 'mm' };
}

/** Two pages, the second 3 × 2 inches. */
async function survey(): Promise<DrawingFile> {
  const document = await PDFDocument.create();
  document.addPage([72, 72]);
  document.addPage([216, 144]).drawRectangle({ x: 10, y: 10, width: 100, height: 50, color: rgb(1, 0, 0) });
  const path = join(folder, 'survey.pdf');
  writeFileSync(path, await document.save());
  return { id: 'survey', name: 'SITE SURVEY.PDF', path, hash: sha256(readFileSync(path)) };
}

const sheet: Sheet = {
  ...SHEET,
  number: 'A-1',
  paper: { size: [200, 150] },
  views: [
    {
      ...{ id: 'v', drawing: 'host', space: 'model', window: [0, 0, 200, 150], scale: '1:1', at: [0, 0] },
      ...{ layersOff: [], label: '' },
    },
  ],
};

async function pageOf(drawing: DrawingFile, referable: DrawingFile[]): Promise<Page> {
  const project = { number: '', name: '', client: '', fields: {} };
  const made = await makePage({ project, sheet, recipe: STANDARD_RECIPE, drawings: [drawing], referable });
  if (!made.ok) throw new Error(made.problem.sentence);
  return unpackPage(made.value.page);
}

describe('A page of a PDF below a drawing', () => {
  it('is a crossed box until the PDF is there, and that is said', async () => {
    const drawing = host('plain');
    const page = await pageOf(drawing, []);
    expect([page.pictures, page.texts.map(({ text }) => text)]).toEqual([[], ['Site survey.pdf']]);
    const inspected = await inspectDrawing(drawing);
    expect(inspected.ok && inspected.value.facts.warnings.map(({ sentence }) => sentence)).toEqual([
      'Page 2 of Site survey.pdf lies below the drawing (another file); add that too. Until then a crossed box stands for it.',
    ]);
    expect(inspected.ok && inspected.value.facts.references).toEqual(['Site survey.pdf']);
  });

  it('is shown at its size and place once it is', async () => {
    const page = await pageOf(host('plain'), [await survey()]);
    expect(page.pictures).toMatchObject([{ kind: 'pdf', page: 2, index: 1 }]);
    // 3 × 2 inches by their lower left corner at 100, 20 mm, turned by 90°; in hundredths of a millimetre.
    const [{ a, b, c, d, e, f }] = page.placed as [(typeof page.placed)[0]];
    expect([a, b, c, d, e, f].map(Math.round)).toEqual([0, 7620, -5080, 0, 10000, 2000]);
    expect(page.clips.length).toBeLessThanOrEqual(1);
  });

  it('is clipped by its outline', async () => {
    const page = await pageOf(host('clipped'), [await survey()]);
    const clip = page.clips.at(-1)!.at(-1)![0]!;
    const [xs, ys] = [0, 1].map((axis) => clip.filter((_, i) => i % 2 === axis));
    // From 0.5 to 1.5 inches along the page, which is upwards here, and from 0.25 to 1 inch across it.
    expect([Math.min(...ys!), Math.max(...ys!)].map(Math.round)).toEqual([2000 + 1270, 2000 + 3810]);
    expect([Math.min(...xs!), Math.max(...xs!)].map(Math.round)).toEqual([10000 - 2540, 10000 - 635]);
  });

  it('is left out where it is switched off, and said to keep its colours where it is in one', async () => {
    expect((await pageOf(host('off'), [await survey()])).markCount).toBe(0);
    const inspected = await inspectDrawing(host('monochrome'));
    expect(inspected.ok && inspected.value.facts.warnings.map(({ code }) => code)).toEqual([
      'dxf.picture-looks',
      'dxf.picture',
    ]);
  });

  it('fades into the paper as far as it says', async () => {
    const page = await pageOf(host('faded'), [await survey()]);
    expect(page.groups).toEqual([{ outer: 0, opacity: 60 }]);
    expect([page.group[0], page.pictures.length]).toEqual([1, 1]);
  });
});
