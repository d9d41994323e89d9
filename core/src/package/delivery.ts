import type { Problem } from '../problem';

/**
 * Algorithms of the hashes that destinations report, the one to ask for first: files are known by their SHA-256 here. Named
 * as in FTP (draft-ietf-ftpext2-hash-03).
 */
export const HASH_ALGORITHMS = ['SHA-256', 'SHA-512', 'SHA-1', 'MD5'] as const;
export type HashAlgorithm = (typeof HASH_ALGORITHMS)[number];

/** The hash of a file as its destination reports it. */
export interface ReportedHash {
  algorithm: HashAlgorithm;
  /** In lowercase hexadecimal digits. */
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
      /** Its hash as the destination reports it, which matches the file that was sent; absent where none is reported. */
      hash?: ReportedHash;
    }
  | { problem: Problem };

/** True where a destination has the file: it neither failed nor was left out. */
export function hasArrived(outcome: Delivered): boolean {
  return 'path' in outcome && outcome.how !== 'left out' && outcome.how !== 'not printed';
}
