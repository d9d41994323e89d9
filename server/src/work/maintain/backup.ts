import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { onOneConnection, type Connection } from '../../data/database';
import { referencedHashes } from '../../data/references';
import { lockSweep, unlockSweep } from '../../data/retention';
import { createFolderStore } from '../../files/folder-store';
import type { Store } from '../../files/store';
import { postgresTool } from './postgres-tools';

/** One backup in a folder of backups: a dump of the database, and which content it needs. */
export interface BackupList {
  version: 1;
  /** ISO 8601, UTC. */
  at: string;
  /** File of the dump, in the same folder. */
  dump: string;
  contents: string[];
}

/** What a backup took. */
export interface BackedUp {
  list: string;
  /** All of its contents, and those that were not in the folder yet. */
  contents: number;
  added: number;
  addedBytes: number;
  /** Contents that the database refers to and the store has damaged. */
  damaged: string[];
}

/** Tables whose rows are of the moment: who is signed in, which workers are alive. */
const OF_THE_MOMENT = ['sessions', 'sign_in_tries', 'presence', 'workers'];

/**
 * Backs up the database and the content it refers to into a folder, while everything runs. Content that the folder has
 * already is not copied again. Consistent, since content is never changed, is there before anything refers to it, and
 * nothing is swept meanwhile.
 */
export async function backup(
  connection: Connection,
  databaseUrl: string,
  store: Store,
  folder: string,
  now: Date,
): Promise<BackedUp> {
  mkdirSync(folder, { recursive: true });
  chmodSync(folder, 0o700);
  const kept = createFolderStore(join(folder, 'content'));
  const at = now.toISOString();
  const name = at.replace(/[:.]/g, '-');
  return onOneConnection(connection.pool, async (client) => {
    await lockSweep(client);
    try {
      const before = await referencedHashes(client);
      const dump = `${name}.dump`;
      const unfinished = join(folder, `.${dump}`);
      const without = OF_THE_MOMENT.map((table) => `--exclude-table-data=public.${table}`);
      await postgresTool('pg_dump', databaseUrl, ['--format=custom', '--no-owner', ...without, '--file', unfinished]);
      chmodSync(unfinished, 0o600);
      const wanted = [...new Set([...before, ...(await referencedHashes(client))])].sort();
      const done = { added: 0, addedBytes: 0, damaged: [] as string[] };
      const contents: string[] = [];
      for (const hash of wanted) {
        // Hashes of other things are among them.
        if (!(await store.has(hash))) continue;
        const copied = (await kept.has(hash)) ? 0 : await copy(store, kept, hash);
        if (copied === undefined) {
          done.damaged.push(hash);
          continue;
        }
        contents.push(hash);
        if (copied > 0) done.added++;
        done.addedBytes += copied;
      }
      // The list comes last: a backup that has one is whole.
      renameSync(unfinished, join(folder, dump));
      const list: BackupList = { version: 1, at, dump, contents };
      writeFileSync(join(folder, `.${name}.json`), JSON.stringify(list), { mode: 0o600, flush: true });
      renameSync(join(folder, `.${name}.json`), join(folder, `${name}.json`));
      return { list: `${name}.json`, contents: contents.length, ...done };
    } finally {
      await unlockSweep(client);
    }
  });
}

/** The latest backup in a folder; undefined where there is none. */
export function latestBackup(folder: string): BackupList | undefined {
  const lists = existsSync(folder) ? readdirSync(folder).filter((name) => /^\d.*\.json$/.test(name)) : [];
  const last = lists.sort().at(-1);
  return last === undefined ? undefined : (JSON.parse(readFileSync(join(folder, last), 'utf8')) as BackupList);
}

/** Copies content from one store to another; returns its bytes, undefined where it is not what its hash says. */
export async function copy(from: Store, to: Store, hash: string): Promise<number | undefined> {
  const received = await to
    .receive(await from.stream(hash), (found) => {
      if (found !== hash) throw new Damaged();
    })
    .catch((error: unknown) => {
      if (error instanceof Damaged) return undefined;
      throw error;
    });
  return received?.bytes;
}

class Damaged extends Error {}
