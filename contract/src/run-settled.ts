import type { RunInfo } from './payloads';

/** So long is waited for files to be read again once a run is over, ms. */
const PROOF_MS = 120_000;

/** True when a run changes no more: it is over, and its files were read again or will not be. */
export function isRunSettled({ state, files, finishedAt }: RunInfo, now: number): boolean {
  if (state === 'waiting' || state === 'running') return false;
  const late = finishedAt !== null && now - Date.parse(finishedAt) > PROOF_MS;
  return late || files.every(({ proof }) => proof !== null);
}
