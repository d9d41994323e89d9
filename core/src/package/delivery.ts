import type { Problem } from '../problem';

/** What became of a file at a destination: where it is and how that came, or why it is not there. */
export type Delivered =
  | {
      path: string;
      how: 'new' | 'replaced' | 'numbered' | 'there already' | 'mailed' | 'on a page' | 'printed' | 'not printed';
      /** Path that the older file of that name was given. */
      older?: string;
      /** Its size as the destination tells it, bytes; a mailbox tells nothing. */
      bytes?: number;
    }
  | { problem: Problem };
