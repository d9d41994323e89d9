import { readFileSync, statSync } from 'node:fs';
import { kindOf, readDxf, type ReadResult } from '@folvex/core';
import { readPdf, readSvg } from '@folvex/core/foreign';
import { CacheByBytes } from '../files/cache-by-bytes';
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

/** A drawing takes some six times the memory of its file. */
const cache = new CacheByBytes<ReadResult>({ max: 8, maxFileBytes: 150e6 });

/** Reads a drawing file; the last few are kept, by their content. */
export function loadDrawing({ hash, name, path }: Pick<DrawingFile, 'name' | 'path' | 'hash'>): Promise<ReadResult> {
  const read = async (): Promise<ReadResult> => {
    const result = await readDrawing(new Uint8Array(readFileSync(path)), name);
    if (result.ok) result.drawing.key = hash;
    return result;
  };
  return cache.get(`${hash} ${name}`, read, statSync(path).size);
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
