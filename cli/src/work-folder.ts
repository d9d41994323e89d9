import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { makeFolders } from '@folvex/press';

/** Exit codes of a process that a signal ended: 128 and its number. */
const SIGNALS = { SIGINT: 130, SIGTERM: 143 } as const;

/**
 * Runs work with a folder for unfinished files below `parent`, which is gone afterwards; also when the process is told
 * to end meanwhile: `abort` then stops whatever still writes to the folder.
 */
export async function withWorkFolder<T>(
  parent: string,
  abort: () => Promise<void>,
  work: (folder: string, aborted: AbortSignal) => Promise<T>,
): Promise<T> {
  makeFolders(parent);
  const folder = mkdtempSync(join(parent, '.folvex-'));
  const remove = (): void => rmSync(folder, { recursive: true, force: true });
  const aborting = new AbortController();
  let ending: Promise<void> | undefined;
  const end = (signal: keyof typeof SIGNALS): void => {
    aborting.abort();
    ending = abort()
      .catch(() => undefined)
      .then(() => {
        remove();
        process.exit(SIGNALS[signal]);
      });
  };
  for (const signal of Object.keys(SIGNALS)) process.once(signal, end);
  try {
    return await work(folder, aborting.signal);
  } finally {
    // Ends this process.
    await ending;
    for (const signal of Object.keys(SIGNALS)) process.off(signal, end);
    remove();
  }
}
