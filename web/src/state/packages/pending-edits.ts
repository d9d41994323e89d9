import type { PackageChange } from '@folvex/contract';

/** An edit of a package that was made just before its page was left. */
export interface PendingEdit {
  project: string;
  packageId: string;
  change: PackageChange;
}

const KEY = 'folvex.left';
/** What was left longer ago came to the server, or never will; others may have edited since, ms. */
const FRESH_MS = 30_000;

/** Leaves edits to the page that is loaded next in this tab; what was left before is forgotten. */
export function savePendingEdits(edits: readonly PendingEdit[]): void {
  if (edits.length === 0) sessionStorage.removeItem(KEY);
  else sessionStorage.setItem(KEY, JSON.stringify({ at: Date.now(), edits }));
}

/** Takes what the page before left, once. */
export function takePendingEdits(): PendingEdit[] {
  const left = sessionStorage.getItem(KEY);
  sessionStorage.removeItem(KEY);
  if (left === null) return [];
  const { at, edits } = JSON.parse(left) as { at: number; edits: PendingEdit[] };
  return Date.now() - at < FRESH_MS ? edits : [];
}
