import { and, asc, eq } from 'drizzle-orm';
import { isOfficeServer, type TransferServer } from '@folvex/contract';
import { ProblemError, type Destination } from '@folvex/core';
import type { TransferLogin } from '@folvex/press';
import type { Database } from './database';
import { officeServers, transferServers } from './schema';

/** A server of a project; project null: of the office. */
export type TransferServerRow = typeof officeServers.$inferSelect & { projectId: string | null };

/** Opens what `seal` sealed; `about` must be the same. */
export type Unseal = (sealed: string, about: string) => string;

/** What a sealed secret is bound to: another row cannot use it. */
export function secretAbout({
  projectId,
  id,
  address,
}: Pick<TransferServerRow, 'projectId' | 'id' | 'address'>): string {
  return `${projectId ?? 'all projects'} ${id} ${new URL(address).host}`;
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

/** The servers of a project, by their names, and then those of the office. */
export async function transferServersOf(db: Database, projectId: string): Promise<TransferServerRow[]> {
  const own = db
    .select()
    .from(transferServers)
    .where(eq(transferServers.projectId, projectId))
    .orderBy(asc(transferServers.name));
  const shared = db.select().from(officeServers).orderBy(asc(officeServers.name));
  return [...(await own), ...(await shared).map((row) => ({ projectId: null, ...row }))];
}

/** A server that a project has, its own or one of the office. */
export async function transferServerById(
  db: Database,
  projectId: string,
  id: string,
): Promise<TransferServerRow | undefined> {
  if (isOfficeServer({ id })) return officeServerById(db, id);
  return (await db.select().from(transferServers).where(isOne(projectId, id)))[0];
}

export async function officeServerById(db: Database, id: string): Promise<TransferServerRow | undefined> {
  const [row] = await db.select().from(officeServers).where(eq(officeServers.id, id));
  return row && { projectId: null, ...row };
}

export async function saveTransferServer(db: Database, { projectId, ...row }: TransferServerRow): Promise<void> {
  if (projectId === null) {
    await db.insert(officeServers).values(row).onConflictDoUpdate({ target: officeServers.id, set: row });
    return;
  }
  await db
    .insert(transferServers)
    .values({ projectId, ...row })
    .onConflictDoUpdate({ target: [transferServers.projectId, transferServers.id], set: row });
}

export async function removeTransferServer(
  db: Database,
  { projectId, id }: Pick<TransferServerRow, 'projectId' | 'id'>,
): Promise<void> {
  if (projectId === null) await db.delete(officeServers).where(eq(officeServers.id, id));
  else await db.delete(transferServers).where(isOne(projectId, id));
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
