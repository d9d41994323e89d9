import type { Logger } from 'pino';
import type { Press } from '@folvex/press';
import type { Connection, Database } from '../data/database';
import type { Notifications } from '../data/notifications';
import type { Store } from '../files/store';
import type { Queue } from '../work/queue/queue';

/** What the routes work with. */
export interface Services {
  connection: Connection;
  db: Database;
  store: Store;
  press: Press;
  queue: Queue;
  notifications: Notifications;
  /** Packages are delivered below it. */
  deliveryFolder: string;
  log: Logger;
  /** The day it is, YYYY-MM-DD. */
  today(): string;
}
