import type { Problem } from '../problem';

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
    }
  | { problem: Problem };

/** True where a destination has the file: it neither failed nor was left out. */
export function hasArrived(outcome: Delivered): boolean {
  return 'path' in outcome && outcome.how !== 'left out' && outcome.how !== 'not printed';
}
