import { createServer } from 'node:http';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { createPress } from '@folvex/press';
import { connect, migrateDatabase } from './data/database';
import { importJob } from './data/import-job';
import { listProjects } from './data/projects';
import { createFolderStore, folderTrouble } from './files/store';
import { createApp } from './http/app';
import { settingsFrom } from './settings';
import { openQueue } from './work/queue';

/** Starts the server: migrates, loads the demo into an empty database, listens until told to stop. */
async function main(): Promise<void> {
  const settings = settingsFrom(process.env, fileURLToPath(new URL('./press-thread.mjs', import.meta.url)));
  const log = pino({ level: process.env['FOLVEX_LOG'] ?? 'warn' });
  const trouble = folderTrouble(settings.dataFolder);
  if (trouble) return leave(trouble);
  const connection = connect(settings.databaseUrl);
  await migrateDatabase(connection, settings.migrations);
  const store = createFolderStore(join(settings.dataFolder, 'store'));
  const press = createPress(settings.threadFile, settings.threads);
  if (settings.demoJob && (await listProjects(connection.db)).length === 0) {
    await importJob(connection.db, store, press, settings.demoJob);
  }
  const queue = await openQueue(settings.databaseUrl, connection.pool);
  const { deliveryFolder } = settings;
  const services = { connection, db: connection.db, store, press, queue, deliveryFolder, log, today };
  const server = createServer(createApp(services, settings.webFolder));
  server.on('error', (error: NodeJS.ErrnoException) => {
    const { host, port } = settings;
    if (error.code !== 'EADDRINUSE') return leave(`The server cannot listen on ${host}:${port} (${error.code}).`);
    leave(`Port ${port} is taken by another program; stop that one, or set FOLVEX_PORT to another number.`);
  });
  server.listen(settings.port, settings.host, () => process.send?.('listening'));
  const stop = (): void => {
    server.closeAllConnections();
    server.close();
    Promise.allSettled([queue.close(), press.close()])
      .then(() => connection.close())
      .finally(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  // Whoever started this process is gone: so is the reason to run.
  process.on('disconnect', stop);
}

function today(): string {
  const now = new Date();
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}

function leave(sentence: string): void {
  console.error(sentence);
  process.exit(1);
}

main().catch((error: unknown) =>
  leave(`The server could not start: ${error instanceof Error ? error.message : String(error)}`),
);
