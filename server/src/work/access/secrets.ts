import { createHash, randomBytes } from 'node:crypto';
import { chmodSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { hash, verify, type Options } from '@node-rs/argon2';

/** Argon2id, which is the library's default, with the cost that the OWASP Password Storage Cheat Sheet gives first for it. */
const COST: Options = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** Bits of what links and tokens hold: nobody guesses them. */
const SECRET_BYTES = 32;
/** By which tokens are known to whoever finds one where it should not be. */
const TOKEN_PREFIX = 'folvex_';

export function hashPassword(password: string): Promise<string> {
  return hash(password.normalize('NFC'), COST);
}

/** Takes as long where there is no password to compare with, so that nobody learns which accounts exist. */
export async function isPassword(password: string, stored: string | null | undefined): Promise<boolean> {
  if (!stored) return (await hashPassword(password)) === '';
  return verify(stored, password.normalize('NFC'));
}

/** A secret for a link, with the hash by which it is kept. */
export function newSecret(prefix = ''): { secret: string; hash: string } {
  const secret = prefix + randomBytes(SECRET_BYTES).toString('base64url');
  return { secret, hash: secretHash(secret) };
}

export const newTokenSecret = (): ReturnType<typeof newSecret> => newSecret(TOKEN_PREFIX);

/** Secrets are long and random: a plain hash of one is as safe as it is. */
export function secretHash(secret: string): string {
  return createHash('sha256').update(secret).digest('hex');
}

/**
 * The key that sessions are signed with: the given one, which servers on several machines share, or one of this machine
 * that is made once and kept in its folder, for nobody else to read.
 */
export function sessionKey(given: string | undefined, dataFolder: string): string {
  if (given) return given;
  const file = join(dataFolder, 'session.key');
  try {
    writeFileSync(file, newSecret().secret, { flag: 'wx', mode: 0o600 });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    chmodSync(file, 0o600);
  }
  return readFileSync(file, 'utf8');
}
