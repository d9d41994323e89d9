import { hasOwner, insertInvitation } from '../../data/accounts';
import { databaseTime } from '../../data/clock';
import type { Database } from '../../data/database';
import { newSecret } from './secrets';

const OWNER_LINK_MS = 24 * 3600_000;

/** The secret of a link that makes whoever opens it the owner; undefined where there is one. */
export async function ownerSecret(db: Database): Promise<string | undefined> {
  if (await hasOwner(db)) return undefined;
  const { secret, hash } = newSecret();
  const expiresAt = new Date((await databaseTime(db)) + OWNER_LINK_MS);
  await insertInvitation(db, { hash, email: null, isOwner: true, projectId: null, role: null, expiresAt });
  return secret;
}
