import { existsSync } from 'node:fs';
import { link, rename } from 'node:fs/promises';

/** What disks answer that know no second name for a file: memory sticks, many shares. */
const NO_LINKS = new Set(['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'ENOSYS', 'EMLINK']);

/**
 * Gives a finished file its name, if that is free; fails with `EEXIST` where it is not. The file may keep its first name
 * as well. Where the disk knows no links, the name is looked at just before.
 */
export async function placeNew(finished: string, name: string, linked: typeof link = link): Promise<void> {
  try {
    await linked(finished, name);
  } catch (error) {
    if (!NO_LINKS.has((error as NodeJS.ErrnoException).code ?? '')) throw error;
    if (existsSync(name)) throw Object.assign(new Error(`${name} is there already`), { code: 'EEXIST' });
    await rename(finished, name);
  }
}
