import type { Problem } from '@folvex/core';
import type { DrawingInfo, OfferedFile } from './drawing-payloads';

/**
 * `arriving`: it is still being written, or was until a moment ago. `waiting`: somebody is to decide. `taken`: as a drawing,
 * or as the newer version of one. `known`: the same is here already. `declined`: somebody did not want it. `refused`: it
 * cannot be read. `replaced`: another file took its place before anybody decided.
 */
export type ArrivalState = 'arriving' | 'waiting' | 'taken' | 'known' | 'declined' | 'refused' | 'replaced';

/** A file that came into an inbox. */
export interface ArrivalInfo {
  id: string;
  /** Name of the inbox. */
  inbox: string;
  /** Folders and name of the file below the inbox, with slashes. */
  path: string;
  bytes: number;
  /** When it was first seen there as it is. */
  at: string;
  state: ArrivalState;
  /** The drawing that it is, was taken as, or can become a newer version of; null: none. */
  drawing: string | null;
  /** The version that it was taken as, or null. */
  version: number | null;
  /** What is to be decided about; null: nothing. */
  offered: OfferedFile | null;
  /** Why it cannot be read, or that it needs a password; null: neither. */
  problem: Problem | null;
  /** Who decided; null: nobody did, or it has no name. */
  by: string | null;
}

/** How an inbox was found when it was last looked into. */
export interface InboxInfo {
  id: string;
  /** Where it is, for people; null: it was not looked into yet. */
  where: string | null;
  lookedAt: string | null;
  /** Why it cannot be looked into; null: it can. */
  problem: Problem | null;
}

/** The inboxes of a project, and what came into them, the latest first. */
export interface Arrivals {
  inboxes: InboxInfo[];
  arrivals: ArrivalInfo[];
}

/** What to do with a file that waits: `version`: of its drawing; `unlock`: open it with `password` and see. */
export interface ArrivalAnswer {
  as: 'version' | 'drawing' | 'unlock' | 'decline';
  password?: string;
}

/** What came of that. */
export interface ArrivalAnswered {
  arrival: ArrivalInfo;
  /** The drawing that it is now; null: none. */
  drawing: DrawingInfo | null;
}
