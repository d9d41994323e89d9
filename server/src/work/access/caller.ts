import { lesserRole, roleIncludes, TOKEN_SCOPES, type Account, type Role, type TokenScope } from '@folvex/contract';
import { accountOf, openAccount, rolesOf } from '../../data/accounts';
import type { Author } from '../../data/audit';
import type { Database } from '../../data/database';
import { useToken } from '../../data/tokens';
import { secretHash } from './secrets';

/** Who asks for something, and what they may do. */
export interface Caller {
  /** Null: Folvex serves one person, who does not sign in. */
  account: Account | null;
  /** Roles by the id of the project. */
  roles: Record<string, Role>;
  /** Of a script's token: the most that it may do. */
  scope?: TokenScope;
}

/** Whoever sits at this machine, where it serves nobody else. */
export const ALONE: Caller = { account: null, roles: {} };

export async function callerOfAccount(db: Database, id: string): Promise<Caller | undefined> {
  const account = await openAccount(db, { id });
  return account && { account: accountOf(account), roles: await rolesOf(db, id) };
}

export async function callerOfToken(db: Database, token: string): Promise<Caller | undefined> {
  const row = await useToken(db, secretHash(token));
  const caller = row && (await callerOfAccount(db, row.accountId));
  return caller && { ...caller, scope: row.scope };
}

/** What a caller may do in a project; undefined: not even know that there is one. */
export function roleIn({ account, roles, scope }: Caller, project: string): Role | undefined {
  const own = account === null || account.isOwner ? 'lead' : roles[project];
  return own && scope ? lesserRole(own, TOKEN_SCOPES[scope]) : own;
}

export function mayIn(caller: Caller, project: string, needed: Role): boolean {
  return roleIncludes(roleIn(caller, project), needed);
}

/** What belongs to the installation is its owner's, and nobody's by a token. */
export function isOwner({ account, scope }: Caller): boolean {
  return scope === undefined && (account === null || account.isOwner);
}

export function authorOf({ account }: Caller): Author {
  return account && { id: account.id, name: account.name };
}
