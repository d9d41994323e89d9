import { and, asc, eq } from 'drizzle-orm';
import type { TransferServer } from '@folvex/contract';
import { ProblemError, type Destination } from '@folvex/core';
import type { TransferLogin } from '@folvex/press';
import type { Database } from './database';
import { transferServers } from './schema';

export type TransferServerRow = typeof transferServers.$inferSelect;

/** Opens what `seal` sealed; `about` must be the same. */
export type Unseal = (sealed: string, about: string) => string;

/** What a sealed secret is bound to: another row cannot use it. */
export function secretAbout({
  projectId,
  id,
  address,
}: Pick<TransferServerRow, 'projectId' | 'id' | 'address'>): string {
  return `${projectId} ${id} ${new URL(address).host}`;
}

/** What may be shown of one: never its secret. */
export function transferServerInfo({
  id,
  name,
  address,
  user,
  sealed,
  fingerprint,
}: TransferServerRow): TransferServer {
  return { id, name, address, user, hasSecret: sealed !== null, fingerprint };
}

export function transferServersOf(db: Database, projectId: string): Promise<TransferServerRow[]> {
  return db
    .select()
    .from(transferServers)
    .where(eq(transferServers.projectId, projectId))
    .orderBy(asc(transferServers.name));
}

export async function transferServerById(
  db: Database,
  projectId: string,
  id: string,
): Promise<TransferServerRow | undefined> {
  return (await db.select().from(transferServers).where(isOne(projectId, id)))[0];
}

export async function saveTransferServer(db: Database, row: TransferServerRow): Promise<void> {
  await db
    .insert(transferServers)
    .values(row)
    .onConflictDoUpdate({ target: [transferServers.projectId, transferServers.id], set: row });
}

export async function removeTransferServer(db: Database, projectId: string, id: string): Promise<boolean> {
  return (await db.delete(transferServers).where(isOne(projectId, id)).returning()).length > 0;
}

export function loginOf(row: TransferServerRow, unseal: Unseal): TransferLogin {
  const { name, address, user, sealed, fingerprint } = row;
  try {
    return { name, address, user, fingerprint, secret: sealed === null ? '' : unseal(sealed, secretAbout(row)) };
  } catch {
    const sentence = `The password of ${name} cannot be opened with the key of this installation; enter it again.`;
    throw new ProblemError({ code: 'transfer.secret', sentence, place: {} });
  }
}

/** How to sign in to the server of a destination, by its id; none where it has none, or it is not set up. */
export async function transferLogins(
  db: Database,
  projectId: string,
  destination: Destination,
  unseal: Unseal,
): Promise<ReadonlyMap<string, TransferLogin>> {
  if (!('server' in destination)) return new Map();
  const row = await transferServerById(db, projectId, destination.server);
  return new Map(row ? [[row.id, loginOf(row, unseal)]] : []);
}

function isOne(projectId: string, id: string) {
  return and(eq(transferServers.projectId, projectId), eq(transferServers.id, id));
}
