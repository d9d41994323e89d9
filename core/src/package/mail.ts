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

/** The recipients that a list names. */
export interface Recipients {
  /** Each once, whatever its capitals. */
  addresses: string[];
  /** Entries that name nobody. */
  unknown: string[];
}

/** Reads a list of recipients: addresses, people of a project, and firms, which stand for all of their people. */
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

/** What is wrong with the addresses of an email, whose recipients may be people of its project. */
export function mailFaults(
  { from, to }: Mail,
  people: readonly Contact[] = [],
): { code: 'mail.address' | 'mail.nobody'; sentence: string }[] {
  const sender = from.trim();
  const { addresses, unknown } = recipientsIn(to, people);
  const missing = addresses.length + unknown.length === 0 ? 'recipient' : sender === '' ? 'sender' : undefined;
  if (missing !== undefined) {
    const sentence = `The email has no ${missing}; enter an address in the destination.`;
    return [{ code: 'mail.nobody', sentence }];
  }
  const nobody = unknown.map(
    (one) => `${one} is neither an email address nor a person or firm of this project; correct it in the destination.`,
  );
  const wrong = [sender, ...addresses]
    .filter((address) => !isMailAddress(address))
    .map((address) => `${address} is not an email address; correct it.`);
  return [...nobody, ...wrong].map((sentence) => ({ code: 'mail.address', sentence }));
}

/**
 * Splits an email into one for each recipient: nobody sees the others, and a mailbox that refuses it does not keep it from
 * them. Other destinations stay as they are.
 */
export function separateDestinations(destination: Destination): Destination[] {
  if (destination.kind !== 'mail') return [destination];
  return recipientsIn(destination.to).addresses.map((to) => ({ ...destination, to }));
}
