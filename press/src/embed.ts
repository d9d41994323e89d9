import type { PDFDocument } from '@cantoo/pdf-lib';
import type { Drawing, ForeignObjects, Page } from '@folvex/core';
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
    if (source.kind === 'pdf') {
      const document = await openDocument(picture.drawing, source.bytes, drawing.name);
      objects.push(embedPage(document, source.page, drawing.name, key, deflate));
    } else objects.push(await pictureObjects(source, key));
  }
  return objects;
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
