import { and, eq, inArray } from 'drizzle-orm';
import { inChunks } from './chunks';
import type { Database } from './database';
import type { ArtifactFacts } from '../model/artifacts';
import { noteUse } from './retention';
import { artifacts } from './schema';

const DAY_MS = 86_400_000;

/** What was made from given inputs before; its content is in the store. */
export type ArtifactKind = typeof artifacts.$inferSelect.kind;

export interface Artifact {
  hash: string;
  facts: ArtifactFacts | null;
}

/** Hash of what was made of this kind from these inputs; undefined where nothing was yet. */
export async function findArtifact(db: Database, kind: ArtifactKind, key: string): Promise<string | undefined> {
  return (await findArtifacts(db, kind, [key])).get(key)?.hash;
}

/** The same for many inputs at once, with what is known of each: by key. */
export async function findArtifacts(
  db: Database,
  kind: ArtifactKind,
  keys: readonly string[],
): Promise<Map<string, Artifact>> {
  if (keys.length === 0) return new Map();
  const rows = await db
    .select()
    .from(artifacts)
    .where(and(eq(artifacts.kind, kind), inArray(artifacts.key, [...keys])));
  const now = Date.now();
  const stale = rows.filter(({ usedAt }) => now - usedAt.getTime() > DAY_MS).map(({ key }) => key);
  await noteUse(db, kind, stale);
  return new Map(rows.map(({ key, hash, facts }) => [key, { hash, facts }]));
}

/** Remembers what was made; what was remembered before stays. */
export async function saveArtifacts(db: Database, made: readonly (typeof artifacts.$inferInsert)[]): Promise<void> {
  await inChunks(made, (some) => db.insert(artifacts).values(some).onConflictDoNothing());
}
