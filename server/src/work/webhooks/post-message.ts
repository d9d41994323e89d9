import { webhookSecretAbout, type WebhookCallRow, type WebhookRow } from '../../data/webhooks';
import type { Sealer } from '../access/secrets';
import { signedHeaders } from './signature';

/** How long a receiver may take to answer, ms. */
const ANSWER_MS = 20_000;
/** The receiver wants no more messages (RFC 9110, 15.5.11). */
const GONE = 410;

/** What came of an attempt; `isLast`: another one would end no other way. */
export interface Posted {
  isReceived: boolean;
  isLast: boolean;
  answer: string;
}

/** Sends a message to a webhook, signed. What the receiver answers beyond its status is not read. */
export async function postMessage(
  sealer: Sealer,
  { name, address, sealedSecret, ...key }: WebhookRow,
  { id, body }: Pick<WebhookCallRow, 'id' | 'body'>,
): Promise<Posted> {
  let secret: string;
  try {
    secret = sealer.unseal(sealedSecret, webhookSecretAbout(key));
  } catch {
    const answer = `The secret of ${name} cannot be opened with the key of this installation; create a new one.`;
    return { isReceived: false, isLast: true, answer };
  }
  try {
    const response = await fetch(address, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', ...signedHeaders(secret, { id, at: Date.now(), body }) },
      body,
      // A secret address must not be passed on to another host.
      redirect: 'manual',
      signal: AbortSignal.timeout(ANSWER_MS),
    });
    await response.body?.cancel();
    const { ok, status } = response;
    return { isReceived: ok, isLast: ok || status === GONE, answer: `Answered ${status}` };
  } catch (error) {
    return { isReceived: false, isLast: false, answer: `Did not answer: ${reasonOf(error)}` };
  }
}

function reasonOf(error: unknown): string {
  const { name, message, cause } = error as Error;
  if (name === 'TimeoutError') return `nothing came within ${ANSWER_MS / 1000} s`;
  // `fetch` says what went wrong in the cause.
  return (cause as Partial<Error> | undefined)?.message || message;
}
