import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { composeSheet, PdfDocument, ProblemError, writePart, type Drawing, type Page, type Sheet } from '@folvex/core';
import { embedPictures } from '../../src/pictures/embed';
import { deflate, pdfTools, readDrawing, shippedFonts } from '../../src/index';

export const MM_PER_POINT = 25.4 / 72;

/** A folder that goes away with the tests of a file. */
export function ownFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'folvex-formats-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return folder;
}

export async function drawingOf(bytes: Uint8Array, name: string): Promise<Drawing> {
  const read = await readDrawing(bytes, name);
  if (!read.ok) throw new ProblemError(read.problem);
  return { ...read.drawing, key: name };
}

/** Publishes layouts of drawings, a page each, into one PDF file. */
export function publish(file: string, pages: { drawing: Drawing; layout: string }[], layered = true): Promise<string> {
  const sheets = pages.map(({ drawing, layout }) => ({
    drawing,
    sheet: { ...SHEET, number: layout, from: { drawing: 'd', layout } },
  }));
  return publishSheets(file, sheets, layered);
}

/** A sheet that shows one drawing (`d`), composed. */
export function composedPage(drawing: Drawing, sheet: Partial<Sheet>): Page {
  return composeSheet({
    project: { number: '', name: '', client: '', fields: {} },
    sheet: { ...SHEET, ...sheet },
    fonts: shippedFonts(),
    source: () => ({ drawing, unit: drawing.unit }),
  }).page;
}

/** Publishes sheets that show one drawing each (`d`), a page each, into one PDF file. */
export async function publishSheets(
  file: string,
  pages: { drawing: Drawing; sheet: Partial<Sheet> }[],
  layered = true,
): Promise<string> {
  const tools = await pdfTools();
  const chunks: Uint8Array[] = [];
  const facts = { title: 't', author: '', producer: 'Folvex', date: '', id: 'AB'.repeat(16) };
  const document = new PdfDocument({ write: (bytes) => chunks.push(bytes.slice()) }, tools, facts);
  for (const { drawing, sheet } of pages) {
    const page = composedPage(drawing, sheet);
    const pictures = await embedPictures(page, [drawing]);
    document.addPage(writePart(page, shippedFonts(), layered, deflate, { pictures }), {
      number: sheet.number ?? '',
      title: '',
    });
  }
  document.finish();
  writeFileSync(file, Buffer.concat(chunks));
  return file;
}

/** A sheet of which nothing is said. */
export const SHEET: Sheet = {
  id: 's',
  number: '1',
  title: '',
  group: '',
  paper: undefined,
  frame: 'none',
  titleBlock: undefined,
  revision: undefined,
  views: [],
};

/** Output of a command of the machine. */
export function tool(name: string, ...args: string[]): string {
  return execFileSync(name, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });
}

/** A page of a PDF as poppler draws it, at a resolution. */
export function rastered(pdf: string, dpi: number, page = 1): string {
  const out = `${pdf}-${page}-${dpi}`;
  tool('pdftoppm', '-png', '-r', String(dpi), '-f', String(page), '-l', String(page), '-singlefile', pdf, out);
  return `${out}.png`;
}

export interface Difference {
  /** Mean difference of the grey values, 0…255. */
  mean: number;
  /** Share of pixels that differ by more than a third of the range. */
  strong: number;
  /** Share of pixels that are not white in the first picture: nothing is proved by comparing blanks. */
  inked: number;
}

/** How far two pictures differ on white, after a slight blur that forgives how edges are smoothed. */
export async function difference(one: string, other: string): Promise<Difference> {
  const pixels = async (file: string): Promise<{ data: Buffer; width: number; height: number }> => {
    const { data, info } = await sharp(readFileSync(file))
      .flatten({ background: '#ffffff' })
      .greyscale()
      .blur(1.2)
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { data, width: info.width, height: info.height };
  };
  const [a, b] = [await pixels(one), await pixels(other)];
  const [width, height] = [Math.min(a.width, b.width), Math.min(a.height, b.height)];
  if (Math.abs(a.width - b.width) > 1 || Math.abs(a.height - b.height) > 1) {
    throw new Error(`sizes differ: ${a.width} × ${a.height} and ${b.width} × ${b.height}`);
  }
  let [sum, strong, inked] = [0, 0, 0];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [p, q] = [a.data[y * a.width + x]!, b.data[y * b.width + x]!];
      const d = Math.abs(p - q);
      sum += d;
      if (d > 85) strong++;
      if (p < 250) inked++;
    }
  }
  const count = width * height;
  return { mean: sum / count, strong: strong / count, inked: inked / count };
}
