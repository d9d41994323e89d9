import { and, asc, eq, gt, sql } from 'drizzle-orm';
import type { TokenInfo } from '@folvex/contract';
import type { Database } from './database';
import { tokens } from './access-schema';

type TokenRow = typeof tokens.$inferSelect;

export function tokenInfo({ id, name, scope, createdAt, expiresAt, usedAt }: TokenRow): TokenInfo {
  const [created, expires, used] = [createdAt, expiresAt, usedAt].map((at) => at?.toISOString() ?? null);
  return { id, name, scope, createdAt: created!, expiresAt: expires!, usedAt: used! };
}

export async function insertToken(db: Database, token: typeof tokens.$inferInsert): Promise<TokenRow> {
  return (await db.insert(tokens).values(token).returning())[0]!;
}

export async function tokensOf(db: Database, accountId: string): Promise<TokenInfo[]> {
  const rows = await db.select().from(tokens).where(eq(tokens.accountId, accountId)).orderBy(asc(tokens.createdAt));
  return rows.map(tokenInfo);
}

/** Removes a token of an account; undefined where it has none of that id. */
export async function removeToken(db: Database, accountId: string, id: string): Promise<TokenRow | undefined> {
  const row = and(eq(tokens.accountId, accountId), eq(tokens.id, id));
  return (await db.delete(tokens).where(row).returning())[0];
}

/** The token of a hash, as long as it holds; notes that it was used. */
export async function useToken(db: Database, hash: string): Promise<TokenRow | undefined> {
  const row = and(eq(tokens.hash, hash), gt(tokens.expiresAt, sql`now()`));
  return (
    await db
      .update(tokens)
      .set({ usedAt: sql`now()` })
      .where(row)
      .returning()
  )[0];
}
