import type { Delivered, Destination, PaperTaken, PlotDraft, PlotterPaper, Problem } from '@folvex/core';

export type { Delivered, PaperTaken } from '@folvex/core';

/** How a delivery can end. */
export const DELIVERY_OVER = ['done', 'failed', 'cancelled'] as const;
export type DeliveryEnd = (typeof DELIVERY_OVER)[number];

/** Asks which of some files are at destinations already. */
export interface DestinationQuery {
  destinations: Destination[];
  paths: string[];
}

/** The files that are at a destination already. */
export interface AtDestination {
  /** Where the destination is, for people: the path of a folder on the server, for instance. */
  where: string;
  paths: string[];
  /** What a plotter tells of its paper; absent where it could not be asked, or is none. */
  plotter?: PlotterPaper;
  /** What comes out of a plotter for the files of a run; absent where that is not known, or it is none. */
  draft?: PlotDraft;
  /** Where both are kept: the names that new files would get, by the paths that are taken. */
  numbered?: Record<string, string>;
}

/** The same, or why the destination cannot be looked at now. */
export type LookedAtDestination = AtDestination | { problem: Problem };

export type DeliveryState = 'waiting' | 'sending' | DeliveryEnd;

/** What became of a file at a destination. */
export interface DeliveryReceipt {
  /** Index of the file in its run. */
  file: number;
  outcome: Delivered;
  at: string;
}

/** The page that the recipient of an email downloads its files from. */
export interface RecipientPage {
  /** The last day on which it is open, YYYY-MM-DD, and when that has ended everywhere. */
  lastDay: string;
  expiresAt: string;
  /** When it was closed before; null: it was not. */
  closedAt: string | null;
  hasPassword: boolean;
  /** How often the recipient opened it, and when last; null: not yet. */
  openings: number;
  openedAt: string | null;
  /** Indices of the files that the recipient downloaded, and when the last; null: none yet. */
  downloaded: number[];
  downloadedAt: string | null;
}

/** What lets somebody into a recipient's page. */
export interface RecipientPageKey {
  link: string;
  /** Null: it asks for none. */
  password: string | null;
}

/** Opens a recipient's page. */
export interface RecipientPageOpening {
  /** In a browser that stated it before, it need not be stated again. */
  password?: string;
}

/** What a recipient sees of what was sent. */
export interface RecipientPageContent {
  projectNumber: string;
  projectName: string;
  packageName: string;
  /** When the files were published. */
  publishedAt: string;
  /** Addresses. */
  from: string;
  to: string;
  /** The last day on which the page is open, YYYY-MM-DD. */
  lastDay: string;
  /** Those that the recipient gets; `position`: in the run. */
  files: { position: number; path: string; bytes: number; pages: number }[];
}

/** How far a plotter is with a delivery, and what all of it takes. */
export interface PlotProgress extends PaperTaken {
  /** Pieces of paper: all of them, and those that came out. */
  pieces: number;
  printed: number;
  /** What the plotter waits for, such as `out of paper`; null: nothing. */
  waitsFor: string | null;
}

/** The sending of a run to one destination. */
export interface DeliveryInfo {
  id: string;
  destination: Destination;
  /** Where that is, for people; null until the first attempt. */
  location: string | null;
  /** Name of who started it; null where nobody signs in. */
  startedBy: string | null;
  state: DeliveryState;
  /** Why the last attempt ended before all files had arrived; null where that is said by the receipts. */
  problem: Problem | null;
  createdAt: string;
  finishedAt: string | null;
  /** When the destination is tried again; null: it is not waited for. */
  nextAttemptAt: string | null;
  receipts: DeliveryReceipt[];
  /** Null: its files are not on a page. */
  page: RecipientPage | null;
  /** Null: the destination is no plotter, or has not been sent anything yet. */
  plot: PlotProgress | null;
}

/** Sends a run to a destination, whose folder may be a rule. */
export interface RunDelivery {
  destination: Destination;
}
