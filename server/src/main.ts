import { createServer } from 'node:http';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { createPress, today } from '@folvex/press';
import { connect, migrateDatabase, waitForDatabase } from './data/database';
import { importJobFile } from './work/projects/import-job-file';
import { listenForNotifications } from './data/notifications';
import { listProjects } from './data/projects';
import { upgradeStored } from './data/upgrade-stored';
import { createFolderStore, folderProblem } from './files/store';
import { createApp } from './http/app';
import { configFrom } from './config';
import { openQueue } from './work/queue/queue';

/** How long a starting server waits for a database that is starting too, ms. */
const DATABASE_TIMEOUT_MS = 10_000;

const KEEP_ALIVE_MS = 65_000;

/** Starts the server: migrates, loads the demo into an empty database, listens until told to stop. */
async function main(): Promise<void> {
  const config = configFrom(process.env, fileURLToPath(new URL('./press-thread.mjs', import.meta.url)));
  const log = pino({ level: process.env['FOLVEX_LOG'] ?? 'warn' });
  const problem = folderProblem(config.dataFolder);
  if (problem) return leave(problem);
  const connection = connect(config.databaseUrl);
  await waitForDatabase(connection, DATABASE_TIMEOUT_MS, () => {
    console.error('The server waits for the database, which does not answer yet.');
  });
  await migrateDatabase(connection, config.migrations);
  await upgradeStored(connection.pool);
  const store = createFolderStore(join(config.dataFolder, 'store'));
  const press = createPress(config.threadFile, config.threads, config.limits);
  if (config.demoJob && (await listProjects(connection.db)).length === 0) {
    await importJobFile(connection.db, store, press, config.demoJob);
  }
  const queue = await openQueue(config.databaseUrl, connection);
  const notifications = listenForNotifications(config.databaseUrl);
  const { deliveryFolder } = config;
  const { db } = connection;
  const services = { connection, db, store, press, queue, notifications, deliveryFolder, log, today };
  const server = createServer(createApp(services, config.webFolder, config.names));
  server.on('error', (error: NodeJS.ErrnoException) => {
    const { host, port } = config;
    if (error.code !== 'EADDRINUSE') return leave(`The server cannot listen on ${host}:${port} (${error.code}).`);
    leave(`Port ${port} is taken by another program; stop that one, or set FOLVEX_PORT to another number.`);
  });
  // Longer than clients and proxies keep idle connections: they must not meet one that is just being closed.
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  server.listen(config.port, config.host, () => process.send?.('listening'));
  const stop = (): void => {
    server.closeAllConnections();
    server.close();
    Promise.allSettled([queue.close(), press.close(), notifications.close()])
      .then(() => connection.close())
      .finally(() => process.exit(0));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  // Whoever started this process is gone: so is the reason to run.
  process.on('disconnect', stop);
}

function leave(sentence: string): void {
  console.error(sentence);
  process.exit(1);
}

main().catch((error: unknown) =>
  leave(`The server could not start: ${error instanceof Error ? error.message : String(error)}`),
);
