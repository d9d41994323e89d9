import { join } from 'node:path';
import type { Connection } from '../../data/database';
import { createFolderStore } from '../../files/folder-store';
import type { Store } from '../../files/store';
import { copy, latestBackup } from './backup';
import { postgresTool } from './postgres-tools';

/** What was restored: when it was backed up, and how many contents; or why nothing was. */
export type Restored = { at: string; contents: number } | { problem: string };

/** Puts the latest backup of a folder into an empty database and an empty store; every content is checked on the way. */
export async function restore(
  connection: Connection,
  databaseUrl: string,
  store: Store,
  folder: string,
): Promise<Restored> {
  const list = latestBackup(folder);
  if (!list) return { problem: `There is no whole backup in ${folder}.` };
  if (list.version !== 1)
    return { problem: `The backup of ${list.at} was made by a newer Folvex; restore it with that.` };
  const { rows } = await connection.pool.query<{ count: string }>(
    `select count(*) from information_schema.tables where table_schema = 'public'`,
  );
  if (Number(rows[0]!.count) > 0) return { problem: 'The database is not empty; restore into a new one.' };
  for await (const one of store.contents())
    return { problem: `The store is not empty (it has ${one.hash}); restore into a new folder.` };
  const kept = createFolderStore(join(folder, 'content'));
  const missing: string[] = [];
  for (const hash of list.contents) if (!(await kept.has(hash))) missing.push(hash);
  if (missing.length > 0)
    return {
      problem: `The backup lacks ${missing.length} of its contents, ${missing[0]} first; nothing was restored.`,
    };
  for (const hash of list.contents)
    if ((await copy(kept, store, hash)) === undefined)
      return { problem: `${hash} in the backup is damaged; only part of the store was restored, and no database.` };
  // The database last: what it refers to is there before it is.
  await postgresTool('pg_restore', databaseUrl, [
    ...['--no-owner', '--exit-on-error', '--single-transaction', '--dbname', new URL(databaseUrl).pathname.slice(1)],
    join(folder, list.dump),
  ]);
  return { at: list.at, contents: list.contents.length };
}
