import { readFileSync } from 'node:fs';
import { LRUCache } from 'lru-cache';
import { FontSet, ownFontId, type FontFace, type OwnTypeface } from '@folvex/core';
import { faceOf } from './open';
import { shippedFaces, shippedFonts } from './shipped';

/** The file of a typeface of the office's own. */
export interface TypefaceFile extends Pick<OwnTypeface, 'id' | 'asked'> {
  hash: string;
  path: string;
}

/** Faces that are read, by the hashes of their files. */
const known = new LRUCache<string, FontFace>({ max: 8 });

/** The shipped typefaces with those of the office's own, which are read from their files once they are used. */
export function fontsWith(own: readonly TypefaceFile[] = []): FontSet {
  if (own.length === 0) return shippedFonts();
  return new FontSet(
    shippedFaces(),
    own.map(({ id, hash, path, asked }) => ({ id, font: ownFontId(hash), asked, read: () => ownFace(hash, path) })),
  );
}

function ownFace(hash: string, path: string): FontFace {
  const face = known.get(hash) ?? faceOf(ownFontId(hash), new Uint8Array(readFileSync(path)));
  known.set(hash, face);
  return face;
}
