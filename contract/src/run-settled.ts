import { DELIVERY_OVER, type DeliveryInfo } from './delivery-payloads';
import type { RunInfo } from './payloads';

/** So long is waited for files to be read again once a run is over, ms. */
const PROOF_MS = 120_000;

/** True when nothing more becomes of a delivery by itself. */
export function isDeliveryOver({ state }: DeliveryInfo): boolean {
  return DELIVERY_OVER.some((over) => over === state);
}

/**
 * True when a run changes no more by itself: it is over, its files were read again or will not be, and its deliveries are
 * over.
 */
export function isRunSettled({ state, files, finishedAt, deliveries }: RunInfo, now: number): boolean {
  if (state === 'waiting' || state === 'running' || !deliveries.every(isDeliveryOver)) return false;
  const late = finishedAt !== null && now - Date.parse(finishedAt) > PROOF_MS;
  return late || files.every(({ proof }) => proof !== null);
}
