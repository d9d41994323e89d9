import type { Writable } from 'node:stream';
import type { Delivered, PlotterPaper, Problem, ReportedHash } from '@folvex/core';
import type { TransferLogin } from './transfer-login';

/** A finished file to deliver. */
export interface DeliveredFile {
  /** Path of its bytes on this machine. */
  from: string;
  /** SHA-256 of its bytes. */
  hash: string;
  /** Folders and name below the destination, with slashes. */
  path: string;
}

/** What a kind of destination needs to know of the machine that delivers. */
export interface DestinationContext {
  /** The folder below which all folders are that files are delivered to. */
  deliveryFolder: string;
  /** Transfer servers that are set up, by their ids. */
  transferServers?: ReadonlyMap<string, TransferLogin> | undefined;
}

/** What a destination tells of a file. */
export interface FoundFile {
  bytes: number;
  /** When it was last written, ms since 1970. */
  writtenAt: number;
}

/** A file below a folder, by its path with slashes. */
export interface FileBelow extends FoundFile {
  path: string;
}

/** The port to a folder that files are read from. */
export interface FileSource {
  /** Where it is, for people: the path of a folder, for instance. */
  readonly where: string;
  /** Every file in it and below it. Rejects with a `ProblemError` where it does not exist or holds too much. */
  files(): Promise<FileBelow[]>;
  /** Writes the content of a file into a stream, which it ends. */
  copyTo(path: string, into: Writable): Promise<void>;
  /** Ends what is open; the port can be used again afterwards. */
  close(): Promise<void>;
}

/**
 * The port to a place that files are delivered to. A kind of destination is one implementation: how it is reached is its
 * own matter, what to do with a file that has the name already is decided by `deliver` alone.
 */
export interface DestinationPort {
  /** Where it is, for people: the path of a folder, for instance. */
  readonly where: string;
  /** Whether files can be delivered there now; undefined where they can. Leaves nothing behind. */
  test(): Promise<Problem | undefined>;
  /** Of some paths, those where something is already. */
  list(paths: readonly string[]): Promise<string[]>;
  /** SHA-256 of what is at a path; `other` where it cannot be read as a file, undefined where nothing is. */
  hashOf(path: string): Promise<string | 'other' | undefined>;
  /**
   * Copies a file so that it appears whole or not at all. Without `replace` it takes its name only if that is free, and
   * resolves to false where it is not.
   */
  put(file: DeliveredFile, options: { replace: boolean }): Promise<boolean>;
  /** What the destination tells of what is at a path; undefined where nothing is. */
  find(path: string): Promise<FoundFile | undefined>;
  /** The hash of a file as the destination reports it, without a download; undefined where it reports none. */
  reportedHash(path: string): Promise<ReportedHash | undefined>;
  /** Gives what is at a path another name in its folder, if that is free; false where it is not. */
  rename(path: string, to: string): Promise<boolean>;
  /** Ends what is open; the port can be used again afterwards. */
  close(): Promise<void>;
}

/** A page that a recipient downloads files from. */
export interface MailedPage {
  link: string;
  /** The last day on which it is open, YYYY-MM-DD. */
  until: string;
  hasPassword: boolean;
}

/** What an email may have besides the files that it is about. */
export interface MailExtras {
  /** Always attached. */
  enclosed?: readonly DeliveredFile[] | undefined;
  /** Puts the files on a page for the recipient; undefined where there are no such pages. */
  page?: (() => Promise<MailedPage>) | undefined;
}

/** The port to a mailbox. What it was sent cannot be looked at, nor taken back. */
export interface MailPort {
  /** Where it is, for people. */
  readonly where: string;
  /**
   * Sends files in one email: attached, or on a page where they are too large. The email's identity (RFC 5322, 3.6.4)
   * follows from an id: sent twice, it is recognized as the same one. Rejects with a `ProblemError` where it is refused,
   * with a `StepFailed` where the server cannot be reached or signed in to.
   */
  send(id: string, files: readonly DeliveredFile[], extras?: MailExtras): Promise<Delivered[]>;
  close(): Promise<void>;
}

/** A printing job on one kind of paper. */
export interface PlotJob {
  /** Tells it from all other jobs. */
  name: string;
  /** Path of a PDF on this machine, whose pages are as large as its pieces of paper. */
  file: string;
  /** Pieces of paper: all the same, mm. */
  width: number;
  length: number;
  isGrey: boolean;
}

/** What a plotter tells of itself. */
export interface PlotterFacts extends PlotterPaper {
  state: 'idle' | 'processing' | 'stopped';
  /** Keywords that say more of it (RFC 8011, 5.4.12), such as `media-empty`. */
  reasons: string[];
}

/** How far a printing job is: `open` until it is over. */
export interface PlotJobState {
  id: number;
  name: string;
  state: 'open' | 'done' | 'cancelled' | 'failed';
}

/**
 * The port to a plotter. Methods reject with a `StepFailed` where it cannot be reached or signed in to, with a `ProblemError`
 * where it refuses.
 */
export interface PlotterPort {
  /** Where it is, for people. */
  readonly where: string;
  facts(): Promise<PlotterFacts>;
  /** Sends a job; resolves with its id. */
  print(job: PlotJob): Promise<number>;
  /** The jobs that it knows, those that are over included as long as it keeps them. */
  jobs(): Promise<PlotJobState[]>;
  /** Cancels a job, unless it is over. */
  cancel(id: number): Promise<void>;
  close(): Promise<void>;
}

/** The port to a folder of this machine. */
export type FolderPort = DestinationPort & FileSource;

/** The port to a folder of a transfer server; it is tested step by step instead (`probeTransfer`). */
export type TransferPort = Omit<DestinationPort, 'test'> & FileSource;
