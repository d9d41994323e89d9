import { EventEmitter } from 'node:events';
import { sql } from 'drizzle-orm';
import pg from 'pg';
import type { Database } from './database';

/** What processes tell each other through the database: that a run changed or was cancelled (its id), that jobs were added. */
export type Channel = 'run_changed' | 'run_cancelled' | 'jobs_added';

const CHANNELS: readonly Channel[] = ['run_changed', 'run_cancelled', 'jobs_added'];
const RECONNECT_MS = 500;

/** Tells every process that listens; inside a transaction, once that commits. */
export async function notify(db: Pick<Database, 'execute'>, channel: Channel, payload = ''): Promise<void> {
  await db.execute(sql`select pg_notify(${channel}, ${payload})`);
}

export interface Notifications {
  /**
   * Calls back with the payload of each notification, and without one after the connection was lost for a while: then
   * anything may have happened. Returns the function that ends it.
   */
  on(channel: Channel, listener: (payload: string | undefined) => void): () => void;
  close(): Promise<void>;
}

/** Listens to the database's notifications on one connection of its own, which is replaced whenever it breaks. */
export function listenForNotifications(url: string): Notifications {
  const emitter = new EventEmitter().setMaxListeners(0);
  let client: pg.Client | undefined;
  let timer: NodeJS.Timeout | undefined;
  let closed = false;
  const connect = async (): Promise<void> => {
    const next = new pg.Client({ connectionString: url });
    client = next;
    next.on('notification', ({ channel, payload }) => emitter.emit(channel, payload ?? ''));
    next.on('error', () => undefined);
    next.on('end', () => {
      if (!closed) timer = setTimeout(() => void connect(), RECONNECT_MS);
    });
    try {
      await next.connect();
      for (const channel of CHANNELS) await next.query(`listen ${channel}`);
      for (const channel of CHANNELS) emitter.emit(channel, undefined);
    } catch {
      // `end` has been emitted already, or is now.
      await next.end().catch(() => undefined);
    }
  };
  void connect();
  return {
    on: (channel, listener) => {
      emitter.on(channel, listener);
      return () => emitter.off(channel, listener);
    },
    close: async () => {
      closed = true;
      clearTimeout(timer);
      await client?.end().catch(() => undefined);
    },
  };
}
