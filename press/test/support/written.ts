import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import {
  PageBuilder,
  textAdvance,
  writePart,
  type ContentOptions,
  type MeasuredArea,
  type Page,
  type PlannedFile,
  type Protection,
  type Recipe,
  type Sheet,
  type SheetPackage,
} from '@folvex/core';
import { assembleFile, pdfTools, shippedFonts } from '../../src/index';
import { ownFolder, SHEET } from './published';

const folder = ownFolder();
const PROJECT = { number: '1', name: 'P', client: '', fields: {} };

/** A page with texts in a column from 20, 200 downwards. */
export function pageWith(texts: string[]) {
  const builder = new PageBuilder(420, 297);
  texts.forEach((text, i) => {
    const advance = textAdvance(shippedFonts(), 'sans', text) * 5;
    const y = 200 - 10 * i;
    const placed = { text, font: 'sans' as const, size: 5, a: 1, b: 0, c: 0, d: 1, x: 20, y, advance };
    builder.text(
      placed,
      { xmin: 20, ymin: y, xmax: 20 + advance, ymax: y + 5 },
      builder.layer('', 'Notes'),
      builder.pen(0, 0),
    );
  });
  return builder.build();
}

export const sheet = (id: string, number: string, group = ''): Sheet => ({
  ...SHEET,
  id,
  number,
  title: `Sheet ${id}`,
  group,
});

interface Wanted {
  /** Texts, or whole pages, in place of drawings. */
  sheets: { sheet: Sheet; texts?: string[]; page?: Page; measured?: MeasuredArea[] }[];
  files: { path: string; sheets: string[] }[];
  recipe?: Partial<Recipe>;
  lettering?: ContentOptions;
  protection?: Protection;
}

/** Writes files of sheets, with texts in place of drawings, into a folder of the tests; returns their paths. */
export async function written({ sheets, files, recipe = {}, lettering, protection }: Wanted): Promise<string[]> {
  const tools = await pdfTools();
  const pack: SheetPackage = {
    id: 'p',
    name: 'Permit',
    recipe: '',
    order: [],
    bundling: 'one',
    names: { file: '', folder: '', bundle: '' },
  };
  const planned = files.map((file): PlannedFile => ({ ...file, wanted: file.path, blank: [], unknown: [] }));
  return planned.map((file) => {
    const chunks: Uint8Array[] = [];
    assembleFile(
      {
        project: PROJECT,
        package: pack,
        sheets: sheets.map((one) => one.sheet),
        plan: { files: planned, sheets: sheets.map((one) => one.sheet) },
        groups: [
          { id: 'g', name: 'Plans' },
          { id: 'h', name: 'Details' },
        ],
        recipe,
        ...(protection && { protection }),
        file,
        partHash: (id) => id,
        parts: (id) => {
          const { texts = [], page = pageWith(texts), measured = [] } = sheets.find((one) => one.sheet.id === id)!;
          return [writePart(page, tools.fonts, true, tools.deflate, { measured, ...lettering })];
        },
      },
      tools,
      { write: (bytes) => chunks.push(bytes.slice()) },
    );
    const path = join(folder, file.path);
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, Buffer.concat(chunks));
    return path;
  });
}

export interface Link {
  rect: number[];
  dest?: unknown[];
  url?: string;
  unsafeUrl?: string;
}

export async function linksOf(path: string, page: number, password = ''): Promise<Link[]> {
  const document = await getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0, password }).promise;
  return (await (await document.getPage(page)).getAnnotations()) as Link[];
}
