import { ProblemError } from '../problem';
import { CHOSEN_FONTS, fontKey, namesFor } from './fonts';

/** A typeface of the office's own. */
export interface OwnTypeface {
  id: string;
  /** Family and style, for people. */
  name: string;
  /** Its file: in a job file the path from there, else its name. */
  file: string;
  /** Which one it is in a file that holds several, from 0; absent: the first. */
  face?: number;
  /** SHA-256 of the font as a file of its own, uncompressed; absent in a job file. */
  hash?: string;
  /** Present where it may not be cut down, or not be embedded at all; absent in a job file. */
  embedding?: 'whole' | 'none';
  /** The fonts it is used for when a drawing names them, by file (without its extension) or family. */
  asked: readonly string[];
}

/** The own typeface that is used for a font named in a drawing: the last that lists it. Undefined: a shipped one is used. */
export function ownTypefaceFor<T extends Pick<OwnTypeface, 'asked'>>(
  own: readonly T[] = [],
  wanted: string,
): T | undefined {
  for (const key of namesFor(wanted)) {
    const found = own.findLast(({ asked }) => asked.some((name) => fontKey(name) === key));
    if (found) return found;
  }
  return undefined;
}

/** True where a project has the typeface that a setting names: a shipped one, or one of its own by its id. */
export function hasTypeface({ typefaces = [] }: { typefaces?: readonly OwnTypeface[] }, name: string): boolean {
  return CHOSEN_FONTS.some((id) => id === name) || typefaces.some(({ id }) => id === name);
}

/** The typeface of a file that a job file names. Throws a `ProblemError` where the file holds fewer. */
export function faceIn<T>(held: readonly T[], { file, face = 0 }: OwnTypeface): T {
  const found = held[face];
  if (found !== undefined) return found;
  const sentence = `${file} has fewer than ${face + 1} typefaces; correct "face".`;
  throw new ProblemError({ code: 'typeface.missing', sentence, place: { file } });
}
