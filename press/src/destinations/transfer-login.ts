import { createHash, randomUUID } from 'node:crypto';
import { posix } from 'node:path';
import { Writable } from 'node:stream';
import { SERVER_SCHEMES, type ServerUse } from '@folvex/core';

/** How a transfer server is reached and signed in to. */
export interface TransferLogin {
  /** What people call it. */
  name: string;
  /**
   * `sftp://host:port/folder`, `ftps://host/folder`, `https://host/folder` for WebDAV, `s3://host/bucket/folder`, or
   * `smtps://host` for email, `ipps://host/path` for a plotter.
   */
  address: string;
  user: string;
  /** A password, for SFTP also a private key in OpenSSH's or PEM's form, for S3 the secret access key; empty: none. */
  secret: string;
  /**
   * SHA-256 of the host key (SFTP) or certificate (FTPS, SMTP, IPP) that was accepted, as OpenSSH prints fingerprints; null:
   * none yet.
   */
  fingerprint: string | null;
}

/** A step of a test: what was done, whether it worked, and how long it took. */
export interface TransferStep {
  name: 'name' | 'connection' | 'host key' | 'certificate' | 'sign-in' | 'folder' | 'writing' | 'room' | 'paper';
  ok: boolean;
  milliseconds: number;
  /** What was found, or what is wrong and what to do. */
  sentence: string;
  /** Fingerprint of the host key or certificate that was shown and is not the accepted one. */
  fingerprint?: string;
}

/** A step of a test that failed. */
export class StepFailed extends Error {
  constructor(
    readonly step: TransferStep['name'],
    readonly sentence: string,
    readonly fingerprint?: string,
  ) {
    super(sentence);
  }
}

type SchemeOf<Use extends ServerUse> = (typeof SERVER_SCHEMES)[Use][number];
export type FileScheme = SchemeOf<'server'>;
/** How a server is spoken to. */
export type Scheme = SchemeOf<ServerUse>;

const USUAL_PORTS: Readonly<Record<Scheme, number>> = {
  ...{ sftp: 22, ftp: 21, ftps: 21 },
  ...{ https: 443, http: 80, s3: 443, 's3+http': 80 },
  // Submission with TLS from the beginning (RFC 8314, 3.3), and relays.
  ...{ smtps: 465, smtp: 25 },
  // RFC 8010, 4, and RFC 7472, 3.
  ...{ ipps: 631, ipp: 631 },
};

/** The scheme, host, port and folder of an address. */
export function partsOf(address: string): { scheme: Scheme; host: string; port: number; folder: string } {
  const url = new URL(address);
  const scheme = url.protocol.slice(0, -1) as Scheme;
  const port = Number(url.port) || USUAL_PORTS[scheme];
  return { scheme, host: url.hostname, port, folder: decodeURIComponent(url.pathname).replace(/\/+$/, '') };
}

/** Older unfinished files belong to no delivery that goes on, ms. */
export const LEFTOVER_MS = 24 * 3600_000;

/** A name for a file while it is being sent. */
export function unfinishedName(): string {
  return `.folvex-${randomUUID()}.part`;
}

export function isUnfinished(name: string): boolean {
  return /^\.folvex-[0-9a-f-]{36}\.part$/.test(name);
}

/** A stream that keeps nothing of what is written to it but the SHA-256. */
export class HashSink extends Writable {
  private readonly hash = createHash('sha256');

  override _write(chunk: Buffer, _encoding: BufferEncoding, done: () => void): void {
    this.hash.update(chunk);
    done();
  }

  /** Of all that was written, in hex. */
  digest(): string {
    return this.hash.digest('hex');
  }
}

/** Refuses a file that arrived with fewer bytes, or more, than were sent: a full disk does that. */
export function refuseShort(arrived: number, sent: number): void {
  if (arrived !== sent) throw new Error(`${arrived} of ${sent} bytes arrived`);
}

/** Of some paths, those that are named in their folders: each folder is listed once. */
export async function namedIn(
  paths: readonly string[],
  namesIn: (folder: string) => Promise<string[]>,
): Promise<string[]> {
  const names = new Map<string, ReadonlySet<string>>();
  for (const folder of new Set(paths.map((path) => posix.dirname(path))))
    names.set(folder, new Set(await namesIn(folder)));
  return paths.filter((path) => names.get(posix.dirname(path))!.has(posix.basename(path)));
}
