import { fontKey, namesFor } from './fonts';

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
  /** The fonts that drawings ask for and get this one, by file or family, without an ending. */
  asked: string[];
}

/** The typeface of an office that a drawing's font stands for; undefined: a shipped one does. */
export function ownTypefaceFor(own: readonly OwnTypeface[] = [], wanted: string): OwnTypeface | undefined {
  for (const key of namesFor(wanted)) {
    const found = own.findLast(({ asked }) => asked.some((name) => fontKey(name) === key));
    if (found) return found;
  }
  return undefined;
}
