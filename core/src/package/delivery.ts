import type { Problem } from '../problem';

/** Hashes that destinations tell of files, the surest first, by the names that FTP has for them (draft-ietf-ftpext2-hash). */
export const HASH_ALGORITHMS = ['SHA-512', 'SHA-256', 'SHA-1', 'MD5'] as const;
export type HashAlgorithm = (typeof HASH_ALGORITHMS)[number];

/** What a destination itself says of the content of a file. */
export interface ToldHash {
  algorithm: HashAlgorithm;
  /** In small hexadecimal digits. */
  hex: string;
}

/** What became of a file at a destination: where it is and how that came, or why it is not there. */
export type Delivered =
  | {
      path: string;
      how:
        | 'new'
        | 'replaced'
        | 'numbered'
        | 'there already'
        | 'mailed'
        | 'on a page'
        | 'printed'
        | 'not printed'
        | 'left out';
      /** Path that the older file of that name was given. */
      older?: string;
      /** Its size as the destination tells it, bytes; a mailbox tells nothing. */
      bytes?: number;
      /** Its hash as the destination tells it; absent where it tells none. It is that of the file here. */
      hash?: ToldHash;
    }
  | { problem: Problem };

/** True where a destination has the file: it neither failed nor was left out. */
export function hasArrived(outcome: Delivered): boolean {
  return 'path' in outcome && outcome.how !== 'left out' && outcome.how !== 'not printed';
}
