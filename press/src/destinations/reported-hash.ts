import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { HASH_ALGORITHMS, type HashAlgorithm, type ReportedHash } from '@folvex/core';
import type { DeliveredFile } from './port';

/** Length of a hash, hexadecimal digits. */
const DIGITS: Readonly<Record<HashAlgorithm, number>> = { 'SHA-512': 128, 'SHA-256': 64, 'SHA-1': 40, MD5: 32 };

/** The algorithm of a name, whichever way it is spelled (`sha256`, `SHA-256`); undefined for others. */
function algorithmOf(name: string): HashAlgorithm | undefined {
  const plain = (one: string): string => one.toUpperCase().replace(/[-_]/g, '');
  return HASH_ALGORITHMS.find((algorithm) => plain(algorithm) === plain(name));
}

/** A command that asks an FTP server for the hash of a file. */
export interface HashCommand {
  algorithm: HashAlgorithm;
  verb: string;
  /** The command that selects the algorithm, to be sent once before. */
  choice?: string;
}

/**
 * The command for hashes of a server, by its features (RFC 2389): `HASH` (draft-ietf-ftpext2-hash-03), else an older one such
 * as `XSHA256` (common practice), with the first of our algorithms that it offers; undefined where it has neither.
 */
export function hashCommandFrom(features: ReadonlyMap<string, string>): HashCommand | undefined {
  const offered = (features.get('HASH') ?? '').split(';').map((name) => name.replace('*', ''));
  for (const algorithm of HASH_ALGORITHMS) {
    const name = offered.find((one) => algorithmOf(one) === algorithm);
    if (name !== undefined) return { algorithm, verb: 'HASH', choice: `OPTS HASH ${name}` };
  }
  const older = HASH_ALGORITHMS.map((algorithm) => ({ algorithm, verb: `X${algorithm.replace('-', '')}` }));
  return older.find(({ verb }) => features.has(verb));
}

/** The first hash of an algorithm in a text, in hexadecimal digits; undefined where there is none. */
export function hashIn(text: string, algorithm: HashAlgorithm): ReportedHash | undefined {
  const [found] = new RegExp(`(?<![0-9a-z])[0-9a-f]{${DIGITS[algorithm]}}(?![0-9a-z])`, 'i').exec(text) ?? [];
  return found === undefined ? undefined : { algorithm, hex: found.toLowerCase() };
}

/** The preferred one of the hashes in a header, each in Base64: `sha-256=:…:` (RFC 9530) or `SHA-256=…` (RFC 3230). */
export function digestIn(header: string): ReportedHash | undefined {
  const found = new Map<HashAlgorithm, string>();
  for (const [, name, content] of header.matchAll(/([\w-]+)=:?([A-Za-z0-9+/]+=*):?/g)) {
    const algorithm = algorithmOf(name!);
    const hex = Buffer.from(content!, 'base64').toString('hex');
    if (algorithm && hex.length === DIGITS[algorithm]) found.set(algorithm, hex);
  }
  const algorithm = HASH_ALGORITHMS.find((one) => found.has(one));
  return algorithm && { algorithm, hex: found.get(algorithm)! };
}

/** Refuses a file whose hash at the destination is not that of the file that was sent. */
export async function refuseMismatch(reported: ReportedHash | undefined, file: DeliveredFile): Promise<void> {
  if (!reported || (await sentHash(reported.algorithm, file)) === reported.hex) return;
  throw new Error(`its ${reported.algorithm} at the destination does not match`);
}

async function sentHash(algorithm: HashAlgorithm, { from, hash }: DeliveredFile): Promise<string> {
  if (algorithm === 'SHA-256') return hash;
  const other = createHash(algorithm.replace('-', ''));
  await pipeline(createReadStream(from), other);
  return other.digest('hex');
}
