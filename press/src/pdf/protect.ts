import { createCipheriv, createHash, randomBytes } from 'node:crypto';
import type { Protection } from '@folvex/core';

/** What readers of a protected file may do without the password for changes. */
export interface Allowed {
  print: boolean;
  change: boolean;
  copy: boolean;
}

/** Passwords as a person gives them; never kept. */
export interface Passwords {
  /** To open the file; empty: everybody may. */
  open: string;
  /** To do what is not allowed; empty: one that nobody knows. */
  change: string;
}

/**
 * What enciphers a file, made from its passwords, which do not follow from it. It is kept with a run, so that the run
 * can be repeated without anybody's password being stored.
 */
export interface Lock {
  /** Base64: the file's key, and the entries of its encryption dictionary. */
  key: string;
  O: string;
  U: string;
  OE: string;
  UE: string;
  Perms: string;
  P: number;
}

/** ISO 32000-2, table 22: bits that must be set, and those of what may be allowed. */
const ALWAYS = 0xfffff0c0;
const BITS = { print: (1 << 2) | (1 << 11), change: (1 << 3) | (1 << 5) | (1 << 8) | (1 << 10), copy: 1 << 4 };
/** Taking text out for the blind is always allowed. */
const ACCESSIBLE = 1 << 9;
const MAX_PASSWORD_BYTES = 127;

/** The lock of a file by AES-256 (ISO 32000-2, 7.6.4, revision 6). */
export function lockFor({ open, change }: Passwords, allowed: Allowed): Lock {
  const key = randomBytes(32);
  const user = prepared(open);
  const owner = change === '' ? randomBytes(32) : prepared(change);
  const U = withSalts(user, Buffer.alloc(0));
  const UE = wrapped(key, hash(user, U.subarray(40, 48), Buffer.alloc(0)));
  const O = withSalts(owner, U);
  const OE = wrapped(key, hash(owner, O.subarray(40, 48), U));
  const bits = (Object.keys(BITS) as (keyof Allowed)[]).reduce(
    (sum, name) => sum | (allowed[name] ? BITS[name] : 0),
    0,
  );
  const P = ALWAYS | ACCESSIBLE | bits | 0;
  const plain = Buffer.alloc(16, 0xff);
  plain.writeInt32LE(P, 0);
  plain.write('Tadb', 8, 'latin1');
  randomBytes(4).copy(plain, 12);
  const sealed = createCipheriv('aes-256-ecb', key, null).setAutoPadding(false);
  const Perms = Buffer.concat([sealed.update(plain), sealed.final()]);
  const text = (bytes: Buffer): string => bytes.toString('base64');
  return { key: text(key), O: text(O), U: text(U), OE: text(OE), UE: text(UE), Perms: text(Perms), P };
}

/** How a file with a lock is written. The same lock and content give the same bytes. */
export function protectionOf({ key, P, ...entries }: Lock): Protection {
  const secret = Buffer.from(key, 'base64');
  const hex = (name: keyof typeof entries): string =>
    `/${name} <${Buffer.from(entries[name], 'base64').toString('hex')}>`;
  return {
    dictionary:
      `<< /Filter /Standard /V 5 /R 6 /Length 256 /P ${P} ${hex('O')} ${hex('U')} ${hex('OE')} ${hex('UE')} ${hex('Perms')}` +
      ' /CF << /StdCF << /CFM /AESV3 /AuthEvent /DocOpen /Length 32 >> >> /StmF /StdCF /StrF /StdCF >>',
    cipher: (bytes, object) => {
      // Each stream needs another start; it follows from the key, so that a run is repeated to the byte.
      const start = createHash('sha256').update(secret).update(String(object)).update(bytes).digest().subarray(0, 16);
      const cipher = createCipheriv('aes-256-cbc', secret, start);
      return Buffer.concat([start, cipher.update(bytes), cipher.final()]);
    },
  };
}

/** SASLprep as far as it matters: compatibility forms composed, UTF-8, cut to what the standard takes. */
function prepared(password: string): Buffer {
  return Buffer.from(password.normalize('NFKC'), 'utf8').subarray(0, MAX_PASSWORD_BYTES);
}

/** Hash of a password with its two salts: 48 bytes of the U or O entry (algorithms 8 and 9). */
function withSalts(password: Buffer, user: Buffer): Buffer {
  const salts = randomBytes(16);
  return Buffer.concat([hash(password, salts.subarray(0, 8), user), salts]);
}

function wrapped(key: Buffer, by: Buffer): Buffer {
  const cipher = createCipheriv('aes-256-cbc', by, Buffer.alloc(16)).setAutoPadding(false);
  return Buffer.concat([cipher.update(key), cipher.final()]);
}

/** Algorithm 2.B. */
function hash(password: Buffer, salt: Buffer, user: Buffer): Buffer {
  let key = createHash('sha256').update(password).update(salt).update(user).digest();
  let last = 0;
  for (let round = 0; round < 64 || last > round - 32; round++) {
    const once = Buffer.concat([password, key, user]);
    const repeated = Buffer.concat(Array.from({ length: 64 }, () => once));
    const cipher = createCipheriv('aes-128-cbc', key.subarray(0, 16), key.subarray(16, 32)).setAutoPadding(false);
    const mixed = Buffer.concat([cipher.update(repeated), cipher.final()]);
    // 256 is 1 modulo 3: the first 16 bytes as a number leave what their sum leaves.
    const left = mixed.subarray(0, 16).reduce((sum, byte) => sum + byte, 0) % 3;
    key = createHash(['sha256', 'sha384', 'sha512'][left]!).update(mixed).digest();
    last = mixed.at(-1)!;
  }
  return key.subarray(0, 32);
}
