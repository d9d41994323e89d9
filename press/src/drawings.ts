import { readFileSync } from 'node:fs';
import { readDxf, type ReadResult } from '@folvex/core';

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

const KEPT = 8;
const cache = new Map<string, ReadResult>();

/** Reads a drawing file; the last few are kept, by their content. */
export function loadDrawing(file: Pick<DrawingFile, 'name' | 'path' | 'hash'>): ReadResult {
  const key = `${file.hash} ${file.name}`;
  const known = cache.get(key);
  if (known) {
    cache.delete(key);
    cache.set(key, known);
    return known;
  }
  const result = readDxf(new Uint8Array(readFileSync(file.path)), file.name);
  cache.set(key, result);
  if (cache.size > KEPT) cache.delete(cache.keys().next().value!);
  return result;
}
