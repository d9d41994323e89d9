import type { Contact } from '../sheet/model';
import type { Destination, Mail } from './destination-kinds';

/** A valid address of one mailbox, as browsers take it (WHATWG HTML, "valid email address"). */
export const MAIL_ADDRESS =
  /^[a-z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?(?:\.[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?)*$/i;

/** Of a mailbox's local part and of all of it (RFC 5321, 4.5.3.1). */
const [MAX_LOCAL, MAX_ADDRESS] = [64, 254];

export function isMailAddress(text: string): boolean {
  return text.length <= MAX_ADDRESS && text.indexOf('@') <= MAX_LOCAL && MAIL_ADDRESS.test(text);
}

/** Whom a list in a field means: addresses, each once however it is capitalized, and what means nobody. */
export interface Recipients {
  addresses: string[];
  unknown: string[];
}

/** Addresses, people of a project and firms with all of their people, as they are listed in a field. */
export function recipientsIn(list: string, people: readonly Contact[] = []): Recipients {
  const addresses = new Map<string, string>();
  const unknown: string[] = [];
  for (const one of list.split(/[,;\n]/).map((text) => text.trim())) {
    if (one === '') continue;
    const named = people.filter(({ name }) => isSame(name, one));
    const meant = named.length > 0 ? named : people.filter(({ firm = '' }) => isSame(firm, one));
    const found = isMailAddress(one) ? [one] : meant.map(({ mail }) => mail.trim());
    if (found.length === 0) unknown.push(one);
    for (const address of found)
      if (!addresses.has(address.toLowerCase())) addresses.set(address.toLowerCase(), address);
  }
  return { addresses: [...addresses.values()], unknown };
}

/** What a list of recipients may name: people, then firms. */
export function recipientNames(people: readonly Contact[]): string[] {
  return [...new Set([...people.map(({ name }) => name), ...people.flatMap(({ firm }) => firm ?? [])])];
}

function isSame(one: string, other: string): boolean {
  return one.trim().toLowerCase() === other.toLowerCase();
}

/** What is wrong with the addresses of a mail, whose recipients may be people of its project. */
export function mailFaults(
  { from, to }: Mail,
  people: readonly Contact[] = [],
): { code: 'mail.address' | 'mail.nobody'; sentence: string }[] {
  const sender = from.trim();
  const { addresses, unknown } = recipientsIn(to, people);
  const missing = addresses.length + unknown.length === 0 ? 'recipient' : sender === '' ? 'sender' : undefined;
  if (missing !== undefined) {
    const sentence = `The mail has no ${missing}; enter an address in the destination.`;
    return [{ code: 'mail.nobody', sentence }];
  }
  const nobody = unknown.map(
    (one) => `${one} is neither a mail address nor a person or firm of this project; correct it in the destination.`,
  );
  const wrong = [sender, ...addresses]
    .filter((address) => !isMailAddress(address))
    .map((address) => `${address} is not a mail address; correct it.`);
  return [...nobody, ...wrong].map((sentence) => ({ code: 'mail.address', sentence }));
}

/**
 * What is sent on its own: a mail for each recipient, who learns of no other and whose mailbox may refuse it; else all of
 * it together.
 */
export function separateDestinations(destination: Destination): Destination[] {
  if (destination.kind !== 'mail') return [destination];
  return recipientsIn(destination.to).addresses.map((to) => ({ ...destination, to }));
}
