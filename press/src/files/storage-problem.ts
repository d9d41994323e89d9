import type { Problem } from '@folvex/core';

const REASONS: Readonly<Record<string, string>> = {
  ENOSPC: 'is full; free some room on it, then try again',
  EDQUOT: 'has no room left for Folvex; raise its quota, then try again',
  EROFS: 'can only be read; let Folvex write to it, then try again',
  EACCES: 'does not let Folvex write; give it permission there, then try again',
  EPERM: 'does not let Folvex write; give it permission there, then try again',
  EIO: 'could not be read or written; have it looked at, then try again',
};

/** The problem of the store's disk that an error of the file system means; undefined for other errors. */
export function storageProblem(error: unknown): Problem | undefined {
  const { code: own, message = '' } = (error ?? {}) as { code?: string; message?: string };
  // From another thread an error comes without its code; its message begins with it.
  const code = own ?? /^(E[A-Z]+):/.exec(message)?.[1] ?? '';
  const reason = REASONS[code];
  if (reason === undefined) return undefined;
  return { code: 'storage.failed', sentence: `The disk that holds Folvex's files ${reason}.`, place: {} };
}
