import { randomUUID } from 'node:crypto';
import { and, asc, eq, gt, isNull, sql } from 'drizzle-orm';
import type { Account, AccountRow, Member, Role } from '@folvex/contract';
import type { Database } from './database';
import { accounts, invitations, members, sessions } from './access-schema';
import { projects } from './schema';

export type StoredAccount = typeof accounts.$inferSelect;
export type Invitation = typeof invitations.$inferSelect;

export function accountOf({ id, email, name, isOwner }: StoredAccount): Account {
  return { id, email, name, isOwner };
}

/** An account that is open, by its id, its address (in lower case) or what an OpenID provider knows it by. */
export async function openAccount(
  db: Database,
  by: { id: string } | { email: string } | { openId: string },
): Promise<StoredAccount | undefined> {
  const condition =
    'id' in by ? eq(accounts.id, by.id) : 'email' in by ? eq(accounts.email, by.email) : eq(accounts.openId, by.openId);
  return (
    await db
      .select()
      .from(accounts)
      .where(and(condition, isNull(accounts.closedAt)))
  )[0];
}

/** Whether there is an account with an address (in lower case), open or closed. */
export async function hasAccount(db: Database, email: string): Promise<boolean> {
  return (await db.$count(accounts, eq(accounts.email, email))) > 0;
}

export async function everyAccount(db: Database): Promise<AccountRow[]> {
  const rows = await db.select().from(accounts).orderBy(asc(accounts.name));
  return rows.map((row) => ({ ...accountOf(row), closedAt: row.closedAt?.toISOString() ?? null }));
}

export async function hasOwner(db: Database): Promise<boolean> {
  return (await db.$count(accounts, and(eq(accounts.isOwner, true), isNull(accounts.closedAt)))) > 0;
}

export async function updateAccount(
  db: Database,
  id: string,
  change: Partial<Pick<StoredAccount, 'passwordHash' | 'openId' | 'isOwner' | 'closedAt'>>,
): Promise<StoredAccount | undefined> {
  return (await db.update(accounts).set(change).where(eq(accounts.id, id)).returning())[0];
}

/** Ends every session of an account, but for one that goes on. */
export async function endSessions(db: Database, account: string, except = ''): Promise<void> {
  await db
    .delete(sessions)
    .where(and(sql`${sessions.sess}->>'account' = ${account}`, sql`${sessions.sid} <> ${except}`));
}

/** Roles of an account by the id of the project. */
export async function rolesOf(db: Database, accountId: string): Promise<Record<string, Role>> {
  const rows = await db.select().from(members).where(eq(members.accountId, accountId));
  return Object.fromEntries(rows.map(({ projectId, role }) => [projectId, role]));
}

export async function membersOf(db: Database, projectId: string): Promise<Member[]> {
  return db
    .select({ account: accounts.id, name: accounts.name, email: accounts.email, role: members.role })
    .from(members)
    .innerJoin(accounts, eq(accounts.id, members.accountId))
    .where(and(eq(members.projectId, projectId), isNull(accounts.closedAt)))
    .orderBy(asc(accounts.name));
}

/** Gives an account a role in a project, or with null none. */
export async function setRole(db: Database, projectId: string, accountId: string, role: Role | null): Promise<void> {
  const row = and(eq(members.projectId, projectId), eq(members.accountId, accountId));
  if (role === null) return void (await db.delete(members).where(row));
  await db
    .insert(members)
    .values({ projectId, accountId, role })
    .onConflictDoUpdate({ target: [members.projectId, members.accountId], set: { role } });
}

export async function insertInvitation(db: Database, invitation: Invitation): Promise<void> {
  await db.insert(invitations).values(invitation);
}

/** An invitation that still holds, with the name of its project. */
export async function openInvitation(
  db: Database,
  hash: string,
): Promise<(Invitation & { projectName: string | null }) | undefined> {
  const [row] = await db
    .select({ invitation: invitations, facts: projects.facts })
    .from(invitations)
    .leftJoin(projects, eq(projects.id, invitations.projectId))
    .where(and(eq(invitations.hash, hash), gt(invitations.expiresAt, sql`now()`)));
  return row && { ...row.invitation, projectName: row.facts?.name ?? null };
}

/** Invitations to an address that still hold. */
export async function invitationsTo(db: Database, email: string): Promise<Invitation[]> {
  return db
    .select()
    .from(invitations)
    .where(and(eq(invitations.email, email), gt(invitations.expiresAt, sql`now()`)));
}

/** Accepts invitations: makes the account with what they are to, all or nothing. Undefined where one was used meanwhile. */
export function acceptInvitations(
  db: Database,
  used: readonly Invitation[],
  person: Pick<StoredAccount, 'email' | 'name'> & Partial<Pick<StoredAccount, 'passwordHash' | 'openId'>>,
): Promise<StoredAccount | undefined> {
  return db.transaction(async (tx) => {
    for (const { hash } of used) {
      const taken = await tx
        .delete(invitations)
        .where(eq(invitations.hash, hash))
        .returning({ hash: invitations.hash });
      if (taken.length === 0) return tx.rollback();
    }
    const isOwner = used.some((one) => one.isOwner);
    // Each start without an owner printed a link; none of them may make another owner.
    if (isOwner) await tx.delete(invitations).where(eq(invitations.isOwner, true));
    const [account] = await tx
      .insert(accounts)
      .values({ id: randomUUID(), ...person, isOwner })
      .returning();
    for (const { projectId, role } of used)
      if (projectId && role) await setRole(tx as unknown as Database, projectId, account!.id, role);
    return account;
  });
}
