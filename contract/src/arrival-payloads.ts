import type { Problem } from '@folvex/core';
import type { DrawingInfo, OfferedFile } from './drawing-payloads';

/** As many arrivals are listed, besides those that wait for a decision. */
export const MAX_ARRIVALS = 200;

/**
 * `arriving`: it is still being written, or was until a moment ago. `waiting`: for a decision. `taken`: as a drawing, or as
 * a newer version of one. `known`: the project has the same file already. `declined`: nobody wanted it. `refused`: it
 * cannot be read. `replaced`: a newer file of that name came before anybody decided.
 */
export type ArrivalState = 'arriving' | 'waiting' | 'taken' | 'known' | 'declined' | 'refused' | 'replaced';

/** A file that came into an inbox. */
export interface ArrivalInfo {
  id: string;
  /** Name of the inbox. */
  inbox: string;
  /** Its path in the inbox, with slashes. */
  path: string;
  bytes: number;
  /** When it was first seen with its present size and time of writing, ISO 8601. */
  at: string;
  state: ArrivalState;
  /** Id of the drawing that it is, or would be, a version of; null: none. */
  drawing: string | null;
  /** Which version of that drawing it is; null: none yet. */
  version: number | null;
  /** The file while it waits for a decision, else null. */
  offered: OfferedFile | null;
  /** Why it cannot be read, or that it needs a password; null: neither. */
  problem: Problem | null;
  /** Name of who decided; null: nobody did, or nobody is signed in. */
  by: string | null;
}

/** An inbox as it was when it was last polled. */
export interface InboxInfo {
  id: string;
  /** Where it is, for people; null: it could not be opened. */
  where: string | null;
  /** ISO 8601. */
  polledAt: string;
  /** Why it cannot be read; null: it can. */
  problem: Problem | null;
}

/** The inboxes of a project, and what arrived in them, the latest first. */
export interface Arrivals {
  inboxes: InboxInfo[];
  arrivals: ArrivalInfo[];
}

/** A decision on a file: take it as a `version` of its drawing, or as a `drawing`; `unlock` it with `password`; `decline`. */
export interface ArrivalAnswer {
  as: 'version' | 'drawing' | 'unlock' | 'decline';
  password?: string;
}

/** What became of the file. */
export interface ArrivalAnswered {
  arrival: ArrivalInfo;
  /** The drawing that it is now; null: none. */
  drawing: DrawingInfo | null;
}
