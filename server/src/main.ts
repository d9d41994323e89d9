import { fileURLToPath } from 'node:url';
import { createHostedPress, today } from '@folvex/press';
import { connect, migrateDatabase, waitForDatabase } from './data/database';
import { ownerSecret } from './work/access/first-owner';
import { openIdProvider } from './work/access/open-id';
import { keyOf, sealerWith } from './work/access/secrets';
import { addPartners } from './work/projects/add-partners';
import { importJobFile } from './work/projects/import-job-file';
import { listenForNotifications } from './data/notifications';
import { listProjects } from './data/projects';
import { upgradeStored } from './data/upgrade-stored';
import { folderProblem } from './files/folder-problem';
import { openStore } from './files/open-store';
import { serve } from './http/serve';
import { configFrom } from './config';
import { createLog } from './work/log';
import type { Office } from './work/services';
import { openQueue } from './work/queue/queue';

/** How long a starting server waits for a database that is starting too, ms. */
const DATABASE_TIMEOUT_MS = 10_000;

const built = (name: string): string => fileURLToPath(new URL(`./${name}.mjs`, import.meta.url));

/** Starts the server: migrates, loads the demo into an empty database, listens until told to stop. */
async function main(): Promise<void> {
  const config = configFrom(process.env, built('press-thread'));
  const log = createLog(process.env['FOLVEX_LOG'] ?? 'warn');
  const problem = folderProblem(config.dataFolder);
  if (problem) return leave(problem);
  const connection = connect(config.databaseUrl);
  await waitForDatabase(connection, DATABASE_TIMEOUT_MS, () => {
    console.error('The server waits for the database, which does not answer yet.');
  });
  await migrateDatabase(connection, config.migrations);
  await upgradeStored(connection.pool);
  const store = await openStore(config);
  const files = { host: built('press-host'), thread: config.threadFile };
  const press = createHostedPress(files, config.threads, {
    limits: config.limits,
    onCrash: (reason, tasks) =>
      log.error({ reason, tasks }, 'the process that reads drawings crashed; its tasks are done again'),
  });
  const sealer = sealerWith(keyOf(config.secretsKey, config.dataFolder, 'secrets'));
  if (config.demoJob && (await listProjects(connection.db)).length === 0) {
    const project = await importJobFile(connection.db, store, press, config.demoJob);
    if (config.demoPartners) await addPartners(connection.db, sealer, project, config.demoPartners);
  }
  const queue = await openQueue(config.databaseUrl, connection);
  const notifications = listenForNotifications(config.databaseUrl);
  const { deliveryFolder, maxProjectBytes, officeUrl } = config;
  const { db } = connection;
  const office: Office | undefined =
    officeUrl === undefined
      ? undefined
      : {
          url: officeUrl,
          proxies: config.proxies,
          sessionKey: keyOf(config.sessionKey, config.dataFolder, 'session'),
          ...(config.openId && { openId: openIdProvider(config.openId) }),
          onOwner: () => serving.open(),
        };
  const services = {
    connection,
    db,
    store,
    press,
    queue,
    notifications,
    deliveryFolder,
    maxProjectBytes,
    sealer,
    log,
    office,
    schedules: config.schedules,
    today,
  };
  const serving = serve(services, config, office && (await ownerSecret(db)), {
    whenListening: () => process.send?.('listening'),
    leave,
  });
  const stop = (): void => {
    serving.close();
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
