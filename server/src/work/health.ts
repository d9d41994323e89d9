import { statfs } from 'node:fs/promises';
import { sql } from 'drizzle-orm';
import type { HealthCheck } from '@folvex/contract';
import type { Store } from '../files/store';
import { aliveWorkers } from '../data/workload';
import type { Services } from './services';

/** A worker reports every few seconds; one that has not for this long counts as gone. */
export const SILENT_SECONDS = 60;
/** Below both of these a disk is nearly full. */
const [LEAST_FREE_SHARE, LEAST_FREE_BYTES] = [0.05, 5_000_000_000];

/** Whether the server can work now: each part that it needs, and what is wrong with it. */
export async function healthOf(services: Pick<Services, 'db' | 'store'>): Promise<HealthCheck[]> {
  const { db, store } = services;
  const database = await check('database', async () => {
    await db.execute(sql`select 1`);
    return undefined;
  });
  const folder = await check('store', () => store.problem());
  const disk = await check('disk', () => diskProblem(store));
  const worker = await check('worker', async () => {
    if ((await aliveWorkers(db, SILENT_SECONDS)) > 0) return undefined;
    return `No worker has reported for ${SILENT_SECONDS} seconds; published packages wait until one is started.`;
  });
  return [database, folder, disk, worker];
}

/** Says in one sentence that the disk that the store writes to is nearly full; undefined where it is not. */
export async function diskProblem({ workFolder }: Pick<Store, 'workFolder'>): Promise<string | undefined> {
  const { free, total } = await spaceOf(workFolder);
  if (free > LEAST_FREE_BYTES || free > LEAST_FREE_SHARE * total) return undefined;
  return `The disk that Folvex writes to has ${Math.round(free / 1e6)} MB left; make room before publishing stops.`;
}

/** Bytes free and in all on the disk of a folder. */
export async function spaceOf(folder: string): Promise<{ free: number; total: number }> {
  const { bavail, blocks, bsize } = await statfs(folder);
  return { free: bavail * bsize, total: blocks * bsize };
}

async function check(name: HealthCheck['name'], look: () => Promise<string | undefined>): Promise<HealthCheck> {
  try {
    const sentence = await look();
    return sentence === undefined ? { name, ok: true } : { name, ok: false, sentence };
  } catch {
    return { name, ok: false, sentence: `The ${name} does not answer.` };
  }
}
