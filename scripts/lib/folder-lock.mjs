import { existsSync, linkSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { makeFolders } from './make-folders.mjs';
import { Trouble } from './say.mjs';

const NAME = 'folvex.lock';

/** Whether a Folvex works in a data folder. */
export function isHeld(folder) {
  const holder = read(join(folder, NAME));
  return holder !== undefined && isAlive(holder);
}

/**
 * Makes this process the only Folvex that works in a data folder; returns the function that gives it up. A lock whose
 * process is gone is taken over. Throws a `Trouble` that says who holds the folder, or why it cannot be used.
 */
export function lockFolder(folder, address) {
  const lock = join(folder, NAME);
  const own = join(folder, `${NAME}.${process.pid}`);
  try {
    makeFolders(folder);
    writeFileSync(own, JSON.stringify({ pid: process.pid, started: startOf(process.pid), address }));
  } catch (error) {
    throw new Trouble(
      `Folvex cannot write to the folder ${folder} (${error.code}); give it permission there, or set FOLVEX_DATA to another folder.`,
    );
  }
  try {
    while (!linked(own, lock)) {
      const holder = read(lock);
      if (holder && isAlive(holder)) {
        const where = holder.address ? `, at ${holder.address}` : '';
        throw new Trouble(
          `Another Folvex (process ${holder.pid}${where}) already works in ${folder}; stop that one, or set FOLVEX_DATA to another folder.`,
        );
      }
      discard(lock, own, holder);
    }
  } finally {
    rmSync(own, { force: true });
  }
  return () => {
    if (read(lock)?.pid === process.pid) rmSync(lock, { force: true });
  };
}

/** Gives the finished lock its name, all at once; false where there is one already. */
function linked(own, lock) {
  try {
    linkSync(own, lock);
    return true;
  } catch (error) {
    if (error.code === 'EEXIST') return false;
    throw new Trouble(
      `The folder of ${lock} cannot be locked (${error.code}); set FOLVEX_DATA to a folder on a local disk.`,
    );
  }
}

/** Removes the lock of a dead process, unless somebody else was quicker and the lock is a new one. */
function discard(lock, own, holder) {
  const aside = `${own}.dead`;
  try {
    renameSync(lock, aside);
  } catch {
    return;
  }
  if (JSON.stringify(read(aside)) !== JSON.stringify(holder) && !existsSync(lock)) renameSync(aside, lock);
  rmSync(aside, { force: true });
}

function read(lock) {
  try {
    return JSON.parse(readFileSync(lock, 'utf8'));
  } catch {
    return undefined;
  }
}

function isAlive({ pid, started }) {
  return startOf(pid) === started;
}

/** When a process started, in clock ticks since the machine did: distinguishes it from a later one with the same number. */
function startOf(pid) {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19]);
  } catch {
    return undefined;
  }
}
