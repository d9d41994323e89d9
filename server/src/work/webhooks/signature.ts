import { createHmac, randomBytes } from 'node:crypto';

const PREFIX = 'whsec_';
/** The specification asks for 24 to 64. */
const SECRET_BYTES = 32;

/** A secret for signing messages, as "Standard Webhooks" 1.0 writes symmetric ones. */
export function newWebhookSecret(): string {
  return PREFIX + randomBytes(SECRET_BYTES).toString('base64');
}

/**
 * The headers that tell a receiver who a message is from, and that it is whole and new: "Standard Webhooks" 1.0, with a
 * symmetric signature (HMAC-SHA-256). `at`: the time of this attempt, ms since 1970.
 */
export function signedHeaders(secret: string, { id, at, body }: { id: string; at: number; body: string }) {
  const timestamp = String(Math.floor(at / 1000));
  const key = Buffer.from(secret.slice(PREFIX.length), 'base64');
  const signature = createHmac('sha256', key).update(`${id}.${timestamp}.${body}`).digest('base64');
  return { 'webhook-id': id, 'webhook-timestamp': timestamp, 'webhook-signature': `v1,${signature}` };
}
