import type { TransferServer, TransferServerChange } from '@folvex/contract';

/** A server with some of it changed, as it is to be saved. Another host shows another key. */
export function serverWith(
  { name, address, user, fingerprint }: TransferServer,
  change: Partial<TransferServerChange>,
): TransferServerChange {
  const isSame = change.address === undefined || isSameHost(change.address, address);
  return { name, address, user, fingerprint: isSame ? fingerprint : null, ...change };
}

function isSameHost(one: string, other: string): boolean {
  return URL.canParse(one) && URL.canParse(other) && new URL(one).host === new URL(other).host;
}
