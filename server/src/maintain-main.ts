import { resolve } from 'node:path';
import { configFrom } from './config';
import { connect, migrateDatabase, waitForDatabase } from './data/database';
import { openStore } from './files/open-store';
import { backup } from './work/maintain/backup';
import { restore } from './work/maintain/restore';
import { scrub } from './work/maintain/scrub';
import { sweep } from './work/maintain/sweep';

const DATABASE_TIMEOUT_MS = 10_000;

/** Maintenance by command: `backup <folder>`, `restore <folder>`, `sweep`, `scrub`. Returns the exit code. */
async function main([command = '', folder = '']: readonly string[]): Promise<number> {
  const config = configFrom(process.env, '');
  const connection = connect(config.databaseUrl);
  const store = await openStore(config);
  try {
    await waitForDatabase(connection, DATABASE_TIMEOUT_MS, () => undefined);
    switch (command) {
      case 'backup': {
        const done = await backup(connection, config.databaseUrl, store, resolve(folder), new Date());
        for (const hash of done.damaged) console.error(`${hash} is damaged in the store and is not in the backup.`);
        console.log(
          `${done.list}: ${done.contents} contents, ${done.added} of them new (${megabytes(done.addedBytes)} MB)`,
        );
        return done.damaged.length > 0 ? 1 : 0;
      }
      case 'restore': {
        const done = await restore(connection, config.databaseUrl, store, resolve(folder));
        if ('problem' in done) {
          console.error(done.problem);
          return 1;
        }
        await migrateDatabase(connection, config.migrations);
        console.log(`Restored as it was at ${done.at}: ${done.contents} contents.`);
        return 0;
      }
      case 'sweep': {
        const done = await sweep(connection, store, config.retention);
        if (!done) {
          console.error('Another process sweeps or backs up at the moment; try again later.');
          return 1;
        }
        const { projects, drawings, runs, artifacts, contents, bytes } = done;
        console.log(
          `Deleted: ${projects} projects, ${drawings} drawings, ${runs} runs, ${artifacts} intermediate results; ${contents} contents (${megabytes(bytes)} MB)`,
        );
        return 0;
      }
      case 'scrub': {
        const { contents, damaged } = await scrub(store);
        for (const hash of damaged) console.error(`${hash} is damaged; restore it from a backup.`);
        console.log(`${contents} contents read, ${damaged.length} damaged`);
        return damaged.length > 0 ? 1 : 0;
      }
      default:
        console.error(`There is no command ${command}.`);
        return 2;
    }
  } finally {
    await connection.close();
  }
}

function megabytes(bytes: number): string {
  return (bytes / 1e6).toFixed(1);
}

main(process.argv.slice(2)).then(
  (code) => process.exit(code),
  (error: unknown) => {
    console.error(error instanceof Error ? error.message : String(error));
    process.exit(1);
  },
);
