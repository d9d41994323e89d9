import { randomInt, timingSafeEqual } from 'node:crypto';
import { pageDaysOf, type Mail } from '@folvex/core';
import type { MailedPage } from '@folvex/press';
import type { Database } from '../../data/database';
import { ensureRecipientPage, recipientPageOf, type PageOfDelivery } from '../../data/recipient-pages';
import type { Sealer } from '../access/secrets';

/** Letters and digits that are not mistaken for others when they are read out. */
const CHARACTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
/** Groups of so many: 59 bits. */
const [GROUPS, GROUP_LENGTH] = [3, 4];

/** What the pages of an installation need. */
export interface PageDeps {
  db: Database;
  sealer: Sealer;
  /** The address that people open, without a slash at its end. */
  officeUrl: string;
}

/** Makes the page of a delivery, unless it has one already: its link and password stay the same. */
export async function makeRecipientPage(deps: PageDeps, deliveryId: string, mail: Mail): Promise<MailedPage> {
  const { db, sealer } = deps;
  const hasPassword = mail.pagePassword === true;
  const sealedPassword = hasPassword ? sealer.seal(newPassword(), about(deliveryId)) : null;
  const until = await ensureRecipientPage(db, { deliveryId, days: pageDaysOf(mail), sealedPassword });
  return { link: pageLink(deps, deliveryId), until, hasPassword };
}

/** The link to the page of a delivery. It is signed: whoever knows an id cannot make one. */
export function pageLink({ officeUrl, sealer }: Omit<PageDeps, 'db'>, deliveryId: string): string {
  return `${officeUrl}/files/${deliveryId}.${sealer.sign(about(deliveryId))}`;
}

/** The page that the last part of a link leads to; undefined where the link is not ours. */
export async function pageByLink(
  { db, sealer }: Omit<PageDeps, 'officeUrl'>,
  link: string,
): Promise<PageOfDelivery | undefined> {
  const [deliveryId = '', signature = ''] = link.split('.');
  return isSame(signature, sealer.sign(about(deliveryId))) ? recipientPageOf(db, deliveryId) : undefined;
}

/** The email that a page is linked in: nothing else has pages. */
export function mailOf({ destination }: PageOfDelivery): Mail {
  return destination as Mail;
}

/** The password of a page; null: it asks for none. Throws where it was sealed with another key. */
export function passwordOf({ sealer }: Pick<PageDeps, 'sealer'>, page: PageOfDelivery): string | null {
  return page.sealedPassword === null ? null : sealer.unseal(page.sealedPassword, about(page.deliveryId));
}

/** Compares a password as it was typed: with or without hyphens, in whatever case. */
export function isPagePassword(typed: string, password: string): boolean {
  return isSame(plain(typed), plain(password));
}

function plain(password: string): string {
  return password.toLowerCase().replace(/[\s-]/g, '');
}

/** Takes as long wherever the texts differ. */
function isSame(one: string, other: string): boolean {
  const [a, b] = [Buffer.from(one), Buffer.from(other)];
  return a.length === b.length && timingSafeEqual(a, b);
}

function about(deliveryId: string): string {
  return `recipient page ${deliveryId}`;
}

function newPassword(): string {
  const character = (): string => CHARACTERS[randomInt(CHARACTERS.length)]!;
  const group = (): string => Array.from({ length: GROUP_LENGTH }, character).join('');
  return Array.from({ length: GROUPS }, group).join('-');
}
