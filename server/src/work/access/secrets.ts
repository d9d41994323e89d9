import { createCipheriv, createDecipheriv, createHash, createHmac, hkdfSync, randomBytes } from 'node:crypto';
import { linkSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { hash, verify, type Options } from '@node-rs/argon2';
import { makeFolders } from '@folvex/press';

/** Argon2id, which is the library's default, with the cost that the OWASP Password Storage Cheat Sheet gives first for it. */
const COST: Options = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** Random bytes in a link or token: too many to be guessed. */
const SECRET_BYTES = 32;
/** Tells whoever finds a token where it should not be what it is. */
const TOKEN_PREFIX = 'folvex_';

export function hashPassword(password: string): Promise<string> {
  return hash(password.normalize('NFC'), COST);
}

/** Takes as long where there is no password to compare with, so that nobody learns which accounts exist. */
export async function isPassword(password: string, stored: string | null | undefined): Promise<boolean> {
  if (stored) return verify(stored, password.normalize('NFC'));
  await hashPassword(password);
  return false;
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
  // Written whole before it has its name: another process that starts must not read half of it.
  const own = `${file}.${process.pid}`;
  writeFileSync(own, newSecret().secret, { mode: 0o600 });
  try {
    linkSync(own, file);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  } finally {
    rmSync(own, { force: true });
  }
  return readFileSync(file, 'utf8');
}

/** Seals what others must not read (AES-256-GCM, NIST SP 800-38D). What is opened must be about the same. */
export interface Sealer {
  /** What only this installation can say of a text (HMAC-SHA-256, RFC 2104), for links. */
  sign(text: string): string;
  seal(secret: string, about: string): string;
  /** Throws where it was sealed with another key or about something else. */
  unseal(sealed: string, about: string): string;
}

const [CIPHER, KEY_BYTES, NONCE_BYTES, TAG_BYTES] = ['aes-256-gcm', 32, 12, 16] as const;
/** Tells how a text was sealed, should that ever change. */
const VERSION = '1 ';

export function sealerWith(key: string): Sealer {
  const derived = Buffer.from(hkdfSync('sha256', key, '', 'folvex secrets', KEY_BYTES));
  const signing = Buffer.from(hkdfSync('sha256', key, '', 'folvex links', KEY_BYTES));
  return {
    sign: (text) => createHmac('sha256', signing).update(text).digest('base64url'),
    seal: (secret, about) => {
      const nonce = randomBytes(NONCE_BYTES);
      const cipher = createCipheriv(CIPHER, derived, nonce).setAAD(Buffer.from(about));
      const content = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
      return VERSION + Buffer.concat([nonce, cipher.getAuthTag(), content]).toString('base64');
    },
    unseal: (sealed, about) => {
      const bytes = Buffer.from(sealed.slice(VERSION.length), 'base64');
      const decipher = createDecipheriv(CIPHER, derived, bytes.subarray(0, NONCE_BYTES)).setAAD(Buffer.from(about));
      decipher.setAuthTag(bytes.subarray(NONCE_BYTES, NONCE_BYTES + TAG_BYTES));
      return decipher.update(bytes.subarray(NONCE_BYTES + TAG_BYTES)).toString('utf8') + decipher.final('utf8');
    },
  };
}
