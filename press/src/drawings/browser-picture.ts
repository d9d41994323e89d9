import { loadDrawing, type DrawingFile } from './load-drawing';
import { browserPicture } from '../pictures/rasters';

export interface PictureTask {
  file: Pick<DrawingFile, 'name' | 'path' | 'hash'>;
  /** Index among the drawing's pictures. */
  index: number;
}

export interface BrowserPicture {
  type: 'image/png' | 'image/jpeg' | 'application/pdf';
  bytes: Uint8Array;
}

/** A picture of a drawing as browsers show it: a PDF for its pages, else a picture file. */
export async function pictureOf({ file, index }: PictureTask): Promise<BrowserPicture | undefined> {
  const read = await loadDrawing(file);
  const source = read.ok ? read.drawing.pictures[index] : undefined;
  if (!source) return undefined;
  const type = source.kind === 'pdf' ? 'application/pdf' : source.kind === 'jpeg' ? 'image/jpeg' : 'image/png';
  return { type, bytes: await browserPicture(source) };
}
