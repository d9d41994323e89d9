import type { PDFDocument } from '@cantoo/pdf-lib';
import { ProblemError, type Drawing, type ForeignObjects, type Page, type PictureSource } from '@folvex/core';
import { embedPage, openPdf } from '@folvex/core/foreign';
import { CacheByBytes } from '../files/cache-by-bytes';
import { damagedPicture } from './damaged-picture';
import { pictureObjects } from './rasters';
import { isUnchanged, placedSizes, resamplePictures, settingsOf, type PictureSettings } from './resample-pictures';
import { deflate } from '../pdf/tools';

const opened = new CacheByBytes<PDFDocument>({ max: 4, maxFileBytes: 150e6 });

/** What a PDF needs of each picture that a page shows, in the page's order. */
export async function embedPictures(
  page: Page,
  drawings: readonly Drawing[],
  wish: PictureSettings = { colour: 'full' },
): Promise<ForeignObjects[]> {
  const objects: ForeignObjects[] = [];
  const sizes = placedSizes(page);
  for (const [i, picture] of page.pictures.entries()) {
    const drawing = drawings.find(({ key }) => key === picture.drawing);
    const source = drawing?.pictures[picture.index];
    if (!drawing || !source) throw new Error(`picture ${picture.index} of a drawing is not there`);
    const key = `${picture.drawing} ${picture.index} ${drawing.name}`;
    try {
      const settings = settingsOf(picture, wish);
      objects.push(await embedOne(source, drawing, picture.drawing, key, sizes[i]!, settings));
    } catch (error) {
      if (error instanceof ProblemError) throw error;
      throw damagedPicture(source, drawing.name);
    }
  }
  return objects;
}

async function embedOne(
  source: PictureSource,
  drawing: Drawing,
  hash: string,
  key: string,
  size: [number, number],
  wish: PictureSettings,
): Promise<ForeignObjects> {
  if (source.kind !== 'pdf') {
    if (isUnchanged(wish)) return pictureObjects(source, key);
    const made = await resamplePictures(source, size, wish);
    // The same picture at two sizes is two; left as it came it is one.
    const apart = made === source ? '' : ` ${made.bytes.length} ${size.join('x')} ${JSON.stringify(wish)}`;
    return pictureObjects(made, key + apart);
  }
  const document = await openDocument(hash, source.bytes, drawing.name);
  return embedPage(document, source.page, drawing.name, key, deflate);
}

/** A PDF of others, opened; the last few are kept, since their pages come one after the other. */
function openDocument(key: string, bytes: Uint8Array, name: string): Promise<PDFDocument> {
  const open = async (): Promise<PDFDocument> => {
    const result = await openPdf(bytes, name);
    if (!result.ok) throw new Error(result.problem.sentence);
    return result.value.document;
  };
  return opened.get(key, open, bytes.length);
}
