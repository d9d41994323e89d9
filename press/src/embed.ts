import type { PDFDocument } from '@cantoo/pdf-lib';
import { ProblemError, type Drawing, type ForeignObjects, type Page, type PictureSource } from '@folvex/core';
import { embedPage, openPdf } from '@folvex/core/foreign';
import { pictureObjects } from './rasters';
import { deflate } from './tools';

const KEPT = 4;
const opened = new Map<string, Promise<PDFDocument>>();

/** What a PDF needs of each picture that a page shows, in the page's order. */
export async function embedPictures(page: Page, drawings: readonly Drawing[]): Promise<ForeignObjects[]> {
  const objects: ForeignObjects[] = [];
  for (const picture of page.pictures) {
    const drawing = drawings.find(({ key }) => key === picture.drawing);
    const source = drawing?.pictures[picture.index];
    if (!drawing || !source) throw new Error(`picture ${picture.index} of a drawing is not there`);
    const key = `${picture.drawing} ${picture.index} ${drawing.name}`;
    try {
      objects.push(await embedOne(source, drawing, picture.drawing, key));
    } catch {
      // Its header could be read, what it shows cannot.
      const what = source.kind === 'pdf' || source.kind === 'tiff' ? `Page ${source.page}` : 'A picture';
      const sentence = `${what} of ${drawing.name} is damaged and cannot be placed; ask for the file again, or take the view off the sheet.`;
      throw new ProblemError({ code: 'picture.damaged', sentence, place: { file: drawing.name } });
    }
  }
  return objects;
}

async function embedOne(source: PictureSource, drawing: Drawing, hash: string, key: string): Promise<ForeignObjects> {
  if (source.kind !== 'pdf') return pictureObjects(source, key);
  const document = await openDocument(hash, source.bytes, drawing.name);
  return embedPage(document, source.page, drawing.name, key, deflate);
}

/** A PDF of others, opened; the last few are kept, since their pages come one after the other. */
function openDocument(key: string, bytes: Uint8Array, name: string): Promise<PDFDocument> {
  const known = opened.get(key);
  if (known) return known;
  const document = openPdf(bytes, name).then((result) => {
    if (!result.ok) throw new Error(result.problem.sentence);
    return result.value.document;
  });
  document.catch(() => opened.delete(key));
  opened.set(key, document);
  if (opened.size > KEPT) opened.delete(opened.keys().next().value!);
  return document;
}
