import type { StorageInfo } from '@folvex/contract';
import { storageUsed } from '../data/storage-used';
import { Refused } from '../errors';
import { diskProblem } from './health';
import type { Services } from './services';

type StorageDeps = Pick<Services, 'db' | 'store' | 'maxProjectBytes'>;

/** A project that has used this share of what it may is warned. */
const WARNED_SHARE = 0.9;

/** What a project uses of the store, and a warning where that, or the disk, is nearly at its limit. */
export async function storageInfo(deps: StorageDeps, projectId: string): Promise<StorageInfo> {
  const maxBytes = deps.maxProjectBytes ?? null;
  const usedBytes = await storageUsed(deps.db, projectId);
  const nearlyFull =
    maxBytes !== null && usedBytes >= WARNED_SHARE * maxBytes
      ? `This project has used ${gigabytes(usedBytes)} of its ${gigabytes(maxBytes)}; remove drawings and runs that are no longer needed, or have its limit raised.`
      : undefined;
  return { usedBytes, maxBytes, warning: nearlyFull ?? (await diskProblem(deps.store)) ?? null };
}

/** Throws where a project has used all that it may. */
export async function refuseFullProject({ db, maxProjectBytes }: StorageDeps, projectId: string): Promise<void> {
  if (maxProjectBytes === undefined || (await storageUsed(db, projectId)) < maxProjectBytes) return;
  const sentence = `This project has used all of its ${gigabytes(maxProjectBytes)}; remove drawings or runs that are no longer needed, or have its limit raised.`;
  // Insufficient storage (RFC 4918, 11.5).
  throw new Refused(507, 'project.full', sentence);
}

function gigabytes(bytes: number): string {
  return `${(bytes / 1e9).toLocaleString('en', { maximumFractionDigits: 1 })} GB`;
}
