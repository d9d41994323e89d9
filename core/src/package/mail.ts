import type { Destination, Mail } from './destination-kinds';

/** A valid address of one mailbox, as browsers take it (WHATWG HTML, "valid email address"). */
const ADDRESS =
  /^[a-z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?(?:\.[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?)*$/i;

/** Of a mailbox's local part and of all of it (RFC 5321, 4.5.3.1). */
const [MAX_LOCAL, MAX_ADDRESS] = [64, 254];

export function isMailAddress(text: string): boolean {
  return text.length <= MAX_ADDRESS && text.indexOf('@') <= MAX_LOCAL && ADDRESS.test(text);
}

/** Addresses as they are listed in a field, each once, however it is capitalized. */
export function listedAddresses(list: string): string[] {
  const listed = new Map<string, string>();
  for (const one of list.split(/[,;\n]/).map((text) => text.trim()))
    if (one !== '' && !listed.has(one.toLowerCase())) listed.set(one.toLowerCase(), one);
  return [...listed.values()];
}

/** What is wrong with the addresses of a mail. */
export function mailFaults({ from, to }: Mail): { code: 'mail.address' | 'mail.nobody'; sentence: string }[] {
  const [sender, recipients] = [from.trim(), listedAddresses(to)];
  const missing = recipients.length === 0 ? 'recipient' : sender === '' ? 'sender' : undefined;
  if (missing !== undefined) {
    const sentence = `The mail has no ${missing}; enter an address in the destination.`;
    return [{ code: 'mail.nobody', sentence }];
  }
  const wrong = [sender, ...recipients].filter((address) => !isMailAddress(address));
  return wrong.map((address) => ({
    code: 'mail.address',
    sentence: `${address} is not a mail address; correct it in the destination.`,
  }));
}

/**
 * What is sent on its own: a mail for each recipient, who learns of no other and whose mailbox may refuse it; else all of
 * it together.
 */
export function separateDestinations(destination: Destination): Destination[] {
  if (destination.kind !== 'mail') return [destination];
  return listedAddresses(destination.to).map((to) => ({ ...destination, to }));
}
