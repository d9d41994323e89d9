import type { PaperTaken } from './delivery-payloads';

/** What the ids of servers begin with that all projects of the office have. */
export const OFFICE_SERVER = 'office:';

export function isOfficeServer({ id }: Pick<TransferServer, 'id'>): boolean {
  return id.startsWith(OFFICE_SERVER);
}

/** A transfer server, mail server or plotter of a project or of the office. Its password or key is never sent. */
export interface TransferServer {
  id: string;
  name: string;
  /**
   * `sftp://host:port/folder`, `ftps://host/folder`, `https://host/folder` for WebDAV, `s3://host/bucket/folder`, or
   * `smtps://host` for email, `ipps://host/path` for a plotter.
   */
  address: string;
  user: string;
  hasSecret: boolean;
  /** Fingerprint of the host key or certificate that was accepted; null: none yet. */
  fingerprint: string | null;
  /** What a plotter has printed of the project; absent: nothing, or it is none. */
  printed?: PaperTaken;
}

/** What is set of one. Without `secret` the old one stays, as long as the host of the address does. */
export interface TransferServerChange {
  name: string;
  address: string;
  user: string;
  secret?: string;
  fingerprint: string | null;
}

/**
 * What a test of one does, in this order. Only SFTP has a host key; FTPS, email and plotters
 * with TLS show a certificate; a mail server has neither a folder nor anything to write, a plotter has paper in place of
 * them. Not every server tells how much room it has.
 */
export const TRANSFER_STEPS = [
  'name',
  'connection',
  'host key',
  'certificate',
  'sign-in',
  'folder',
  'writing',
  'room',
  'paper',
] as const;

/** A step of a test of one. */
export interface TransferStep {
  name: (typeof TRANSFER_STEPS)[number];
  ok: boolean;
  milliseconds: number;
  /** What was found, or what is wrong and what to do. */
  sentence: string;
  /** Fingerprint of the host key or certificate that was shown and is not the accepted one. */
  fingerprint?: string;
}
