import * as fontkit from 'fontkit';
import { convert } from 'fontverter';
import {
  fontKey,
  fontTable,
  ProblemError,
  readFontFace,
  type CffOutlines,
  type FontFace,
  type FontId,
} from '@folvex/core';
import { cffOutlines } from './cff';
import { facesOfCollection } from './collection';

/** A typeface of the office's own as it was opened. */
export interface OpenedTypeface {
  /** A font file of its own, not compressed. */
  bytes: Uint8Array;
  /** Family and style, for people. */
  name: string;
  /** Names that drawings ask for it by: those of its file, its family, and its own. */
  asked: string[];
  embedding: FontFace['embedding'];
}

const [WOFF, WOFF2, COLLECTION] = ['wOFF', 'wOF2', 'ttcf'];

/** The typefaces in a file: TTF, OTF, WOFF and WOFF2 hold one, TTC and OTC several. Throws a `ProblemError` on others. */
export async function openTypefaces(bytes: Uint8Array, file: string): Promise<OpenedTypeface[]> {
  try {
    const faces = await fontFiles(bytes);
    return faces.map((face) => opened(face, faces.length === 1 ? file : undefined));
  } catch {
    const sentence = `${file} is not a typeface that can be read; choose a TTF, OTF, TTC or WOFF2 file.`;
    throw new ProblemError({ code: 'typeface.unreadable', sentence, place: { file } });
  }
}

/** Font files as readers take them, one for each face. */
async function fontFiles(bytes: Uint8Array): Promise<Uint8Array[]> {
  const signature = Buffer.from(bytes.subarray(0, 4)).toString('latin1');
  if (signature === WOFF || signature === WOFF2) return [new Uint8Array(await convert(Buffer.from(bytes), 'sfnt'))];
  if (signature !== COLLECTION) return [bytes];
  return facesOfCollection(bytes);
}

function opened(bytes: Uint8Array, file: string | undefined): OpenedTypeface {
  const { embedding, postScriptName, family } = faceOf('own-', bytes);
  const { fullName, subfamilyName } = fontkit.create(Buffer.from(bytes));
  const regular = /^(regular|normal|book|roman|)$/i.test(subfamilyName ?? '');
  const names = [file, fullName, postScriptName, regular ? family : undefined].map((name) => fontKey(name ?? ''));
  return { bytes, name: fullName ?? family, asked: [...new Set(names.filter(Boolean))], embedding };
}

/** A typeface from a font file of its own. Throws where it cannot be read. */
export function faceOf(id: FontId, bytes: Uint8Array): FontFace {
  const face = readFontFace(id, bytes, cffOf(bytes));
  // A glyph that is drawn proves that the outlines are there.
  face.outlineOf(face.glyphOf(0x41));
  return face;
}

function cffOf(bytes: Uint8Array): CffOutlines | undefined {
  return fontTable(bytes, 'CFF ') && cffOutlines(fontkit.create(Buffer.from(bytes)));
}
