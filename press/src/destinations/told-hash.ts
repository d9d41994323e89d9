import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { HASH_ALGORITHMS, type HashAlgorithm, type ToldHash } from '@folvex/core';
import type { DeliveredFile } from './port';

/** Length of a hash in hexadecimal digits. */
const DIGITS: Readonly<Record<HashAlgorithm, number>> = { 'SHA-512': 128, 'SHA-256': 64, 'SHA-1': 40, MD5: 32 };

/** The algorithm that a name of it means, however it is spelled; undefined where it is none of ours. */
function algorithmOf(name: string): HashAlgorithm | undefined {
  const plain = (one: string): string => one.toUpperCase().replace(/[-_]/g, '');
  return HASH_ALGORITHMS.find((algorithm) => plain(algorithm) === plain(name));
}

/** A command by which an FTP server is asked for the hash of a file. */
export interface HashCommand {
  algorithm: HashAlgorithm;
  verb: string;
  /** The command that chooses the algorithm, sent once before. */
  choice?: string;
}

/**
 * How a server with some features (RFC 2389) is asked for hashes: by `HASH` with the surest algorithm that it has
 * (draft-ietf-ftpext2-hash-03), else by an older command such as `XSHA256` (common practice).
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

/** The first hash of an algorithm that a text has in hexadecimal digits. */
export function hashIn(text: string, algorithm: HashAlgorithm): ToldHash | undefined {
  const [found] = new RegExp(`(?<![0-9a-z])[0-9a-f]{${DIGITS[algorithm]}}(?![0-9a-z])`, 'i').exec(text) ?? [];
  return found === undefined ? undefined : { algorithm, hex: found.toLowerCase() };
}

/** The surest of the hashes that a text names by algorithm, each in Base64: `sha-256=:…:` (RFC 9530), `SHA-256=…` (RFC 3230). */
export function digestIn(text: string): ToldHash | undefined {
  const told = new Map<HashAlgorithm, string>();
  for (const [, name, content] of text.matchAll(/([\w-]+)=:?([A-Za-z0-9+/]+=*):?/g)) {
    const algorithm = algorithmOf(name!);
    const hex = Buffer.from(content!, 'base64').toString('hex');
    if (algorithm && hex.length === DIGITS[algorithm]) told.set(algorithm, hex);
  }
  const algorithm = HASH_ALGORITHMS.find((one) => told.has(one));
  return algorithm && { algorithm, hex: told.get(algorithm)! };
}

/** Refuses a file of which a destination tells another hash than it has here. */
export async function refuseOther(told: ToldHash | undefined, file: DeliveredFile): Promise<void> {
  if (!told || (await hexHere(told.algorithm, file)) === told.hex) return;
  throw new Error(`its ${told.algorithm} there is not the one that it has here`);
}

async function hexHere(algorithm: HashAlgorithm, { from, hash }: DeliveredFile): Promise<string> {
  if (algorithm === 'SHA-256') return hash;
  const here = createHash(algorithm.replace('-', ''));
  await pipeline(createReadStream(from), here);
  return here.digest('hex');
}
