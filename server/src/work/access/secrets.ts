import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto';
import { chmodSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { hash, verify, type Options } from '@node-rs/argon2';
import { makeFolders } from '@folvex/press';

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
 * A key of the installation: the given one, which servers on several machines share, or one of this machine that is made
 * once and kept in a file of its folder, for nobody else to read.
 */
export function keyOf(given: string | undefined, dataFolder: string, name: 'session' | 'secrets'): string {
  if (given) return given;
  const file = join(dataFolder, `${name}.key`);
  makeFolders(dataFolder);
  try {
    writeFileSync(file, newSecret().secret, { flag: 'wx', mode: 0o600 });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    chmodSync(file, 0o600);
  }
  return readFileSync(file, 'utf8');
}

/** Seals what others must not read (AES-256-GCM, NIST SP 800-38D). What is opened must be about the same. */
export interface Sealer {
  seal(secret: string, about: string): string;
  /** Throws where it was sealed with another key or about something else. */
  unseal(sealed: string, about: string): string;
}

const [CIPHER, NONCE_BYTES, TAG_BYTES] = ['aes-256-gcm', 12, 16] as const;

export function sealerWith(key: string): Sealer {
  const derived = createHash('sha256').update(`folvex secrets ${key}`).digest();
  return {
    seal: (secret, about) => {
      const nonce = randomBytes(NONCE_BYTES);
      const cipher = createCipheriv(CIPHER, derived, nonce).setAAD(Buffer.from(about));
      const content = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
      return `1 ${Buffer.concat([nonce, cipher.getAuthTag(), content]).toString('base64')}`;
    },
    unseal: (sealed, about) => {
      const bytes = Buffer.from(sealed.slice(2), 'base64');
      const decipher = createDecipheriv(CIPHER, derived, bytes.subarray(0, NONCE_BYTES)).setAAD(Buffer.from(about));
      decipher.setAuthTag(bytes.subarray(NONCE_BYTES, NONCE_BYTES + TAG_BYTES));
      return decipher.update(bytes.subarray(NONCE_BYTES + TAG_BYTES)).toString('utf8') + decipher.final('utf8');
    },
  };
}
