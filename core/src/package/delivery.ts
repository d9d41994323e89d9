import type { Problem } from '../problem';

/** Where a package's files are delivered to once they are written. */
export interface Destination {
  /** Rule for the folder, below the one that the server delivers to; with fields of project, package and run. */
  folder: string;
  /** What becomes of another file that is there under the same name. */
  onConflict: ConflictPolicy;
}

/** What became of a file at a destination: where it is and how that came, or why it is not there. */
export type Delivered = { path: string; how: 'new' | 'replaced' | 'numbered' | 'there already' } | { problem: Problem };

/** It is replaced; it stays and the new one is numbered; or the run does not begin. */
export type ConflictPolicy = 'replace' | 'both' | 'stop';
