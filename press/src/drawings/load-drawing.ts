import { readFileSync } from 'node:fs';
import { kindOf, readDxf, type ReadResult } from '@folvex/core';
import { readPdf, readSvg } from '@folvex/core/foreign';
import { readPicture } from '../pictures/rasters';

/** A drawing file on this machine. */
export interface DrawingFile {
  /** Id by which views refer to it. */
  id: string;
  /** Name as people know it. */
  name: string;
  path: string;
  /** SHA-256 of its bytes. */
  hash: string;
  /** Unit stated for it; overrides the drawing's own. */
  unit?: string | undefined;
}

const MAX_CACHED = 8;
const cache = new Map<string, Promise<ReadResult>>();

/** Reads a drawing file; the last few are kept, by their content. */
export function loadDrawing(file: Pick<DrawingFile, 'name' | 'path' | 'hash'>): Promise<ReadResult> {
  const key = `${file.hash} ${file.name}`;
  const known = cache.get(key);
  if (known) {
    cache.delete(key);
    cache.set(key, known);
    return known;
  }
  const result = readDrawing(new Uint8Array(readFileSync(file.path)), file.name).then((read) => {
    if (read.ok) read.drawing.key = file.hash;
    return read;
  });
  result.catch(() => cache.delete(key));
  cache.set(key, result);
  if (cache.size > MAX_CACHED) cache.delete(cache.keys().next().value!);
  return result;
}

/** Reads a drawing of any known format, recognised by its bytes. Resolves with one refusal on bad input. */
export async function readDrawing(bytes: Uint8Array, name: string): Promise<ReadResult> {
  const kind = kindOf(bytes);
  switch (kind) {
    case 'pdf':
      return readPdf(bytes, name);
    case 'png':
    case 'jpeg':
    case 'tiff':
      return readPicture(bytes, name, kind);
    case 'svg':
      return readSvg(bytes, name);
    default:
      return readDxf(bytes, name);
  }
}
