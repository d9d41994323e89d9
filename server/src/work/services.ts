import type { Logger } from 'pino';
import type { Press } from '@folvex/press';
import type { Connection, Database } from '../data/database';
import type { Notifications } from '../data/notifications';
import type { Store } from '../files/store';
import type { ScheduleRules } from '../model/schedule-rules';
import type { Queue } from '../work/queue/queue';
import type { OpenIdProvider } from './access/open-id';
import type { Sealer } from './access/secrets';

/** What a server of an office has that one for a single person does not. */
export interface Office {
  /** The address that people open, without a slash at its end; links begin with it. */
  url: string;
  /** Trusted proxies, besides those of this machine: IP addresses, or ranges such as `10.0.0.0/8`. */
  proxies?: readonly string[];
  /** Sessions are signed with it. */
  sessionKey: string;
  openId?: OpenIdProvider;
  /** Called when the first owner has joined. */
  onOwner(): void;
}

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
  /** What a project may use of the store, bytes; undefined: as much as there is. */
  maxProjectBytes?: number | undefined;
  /** Opens passwords of transfer servers. */
  sealer: Sealer;
  log: Logger;
  /** Absent: Folvex serves one person on this machine, and nobody signs in. */
  office?: Office | undefined;
  schedules: ScheduleRules;
  /** The day it is, YYYY-MM-DD. */
  today(): string;
}
