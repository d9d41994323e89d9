/** What somebody may do in a project, least first: look and download; edit and publish; issue, deliver and remove. */
export const ROLES = ['reader', 'drafter', 'lead'] as const;
export type Role = (typeof ROLES)[number];

/** Whether a role includes another. */
export function roleIncludes(role: Role | undefined, needed: Role): boolean {
  return role !== undefined && ROLES.indexOf(role) >= ROLES.indexOf(needed);
}

/** The lesser of two roles. */
export function lesserRole(one: Role, other: Role): Role {
  return roleIncludes(one, other) ? other : one;
}

/** What a token of a script may do at most: the role that it has in the projects of its account. */
export const TOKEN_SCOPES = { read: 'reader', publish: 'drafter' } as const satisfies Record<string, Role>;
export type TokenScope = keyof typeof TOKEN_SCOPES;

/** Characters of a password: the least for one that nothing else stands by (NIST SP 800-63B-4, 3.1.1.2, from memory). */
export const PASSWORD_LENGTH = { min: 15, max: 256 } as const;
/** How long a token may last at most, days. */
export const MAX_TOKEN_DAYS = 365;

/** Everything that the audit knows, in words. */
export const AUDIT_EVENTS = {
  'account.signed-in': 'Signed in',
  'account.refused': 'Failed to sign in',
  'account.signed-out': 'Signed out',
  'account.joined': 'Accepted an invitation',
  'account.password': 'Changed the password',
  'account.changed': 'Changed an account',
  'member.invited': 'Invited',
  'member.changed': 'Changed a role',
  'token.created': 'Created a token',
  'token.revoked': 'Revoked a token',
  'project.created': 'Created a project',
  'project.removed': 'Removed or restored a project',
  'project.downloaded': 'Exported a project',
  'drawing.received': 'Added a drawing',
  'inbox.arrived': 'Arrived in an inbox',
  'arrival.decided': 'Decided on an arrival',
  'drawing.changed': 'Changed a drawing',
  'drawing.removed': 'Removed or restored a drawing',
  'edit.made': 'Changed',
  'edit.undone': 'Undid',
  'edit.redone': 'Redid',
  'transfer.changed': 'Changed a transfer server',
  'transfer.removed': 'Removed a transfer server',
  'webhook.changed': 'Changed a webhook',
  'webhook.removed': 'Removed a webhook',
  'run.started': 'Published a package',
  'schedule.published': 'Published by schedule',
  'schedule.stopped': 'Schedule did not publish',
  'schedule.told': 'Emailed the result of a schedule',
  'schedule.untold': 'Could not email the result of a schedule',
  'run.changed': 'Renamed or cancelled a run',
  'run.sent': 'Sent a run',
  'delivery.done': 'Delivery arrived',
  'delivery.failed': 'Delivery failed',
  'delivery.cancelled': 'Cancelled a delivery',
  'page.shared': 'Looked up the link of a recipient’s page',
  'page.closed': 'Closed a recipient’s page',
  'page.opened': 'Recipient opened a page',
  'page.refused': 'Recipient entered a wrong password',
  'page.downloaded': 'Recipient downloaded from a page',
  'run.removed': 'Removed or restored a run',
  'run.downloaded': 'Downloaded from a run',
  'issue.made': 'Issued a run',
  'issue.downloaded': 'Downloaded a register or transmittal',
} as const;
export type AuditEvent = keyof typeof AUDIT_EVENTS;

/** Rows of the audit that are sent at once; older ones are asked for by the oldest of these. */
export const AUDIT_PAGE = 200;

/** A row of the audit. */
export interface AuditRow {
  id: number;
  /** ISO 8601, UTC. */
  at: string;
  /** Null: nobody was signed in. */
  name: string | null;
  event: AuditEvent;
  project: string | null;
  subject: string;
}

/** An address as accounts are known by it: case and blanks around it do not count. */
export function plainAddress(email: string): string {
  return email.trim().toLowerCase();
}

export interface Account {
  id: string;
  email: string;
  name: string;
  isOwner: boolean;
}

/** Who is using this browser, and what they may do. */
export interface SessionInfo {
  /** True where people sign in. */
  office: boolean;
  /** Null: nobody is signed in. */
  account: Account | null;
  /** Roles by the id of the project. An owner has every role without being listed. */
  roles: Record<string, Role>;
  /** Name of the provider by which people may sign in too; null: there is none. */
  openId: string | null;
}

export interface SignIn {
  email: string;
  password: string;
}

export interface PasswordChange {
  /** The current password. */
  was: string;
  password: string;
}

/** What whoever accepts an invitation states. */
export interface InvitationAcceptance {
  name: string;
  password: string;
  /** Only where the invitation has none. */
  email?: string;
}

export interface Invitation {
  email: string;
  role: Role;
}

export interface MemberChange {
  /** Null ends the membership. */
  role: Role | null;
}

export interface AccountChange {
  isOwner?: boolean;
  closed?: boolean;
}

/** What an invitation is for, for whoever has its link. */
export interface InvitationInfo {
  /** Null: whoever accepts it says. */
  email: string | null;
  isOwner: boolean;
  project: { name: string; role: Role } | null;
}

export interface Member {
  account: string;
  name: string;
  email: string;
  role: Role;
}

/** An account as its owner sees it. */
export interface AccountRow extends Account {
  /** Null: it is open. */
  closedAt: string | null;
}

/** The outcome of an invitation: the person has an account and was added, or is to be sent the link. */
export type Invited = { outcome: 'added'; members: Member[] } | { outcome: 'link'; link: string; expiresAt: string };

export interface TokenInfo {
  id: string;
  name: string;
  scope: TokenScope;
  createdAt: string;
  expiresAt: string;
  /** Null: never. */
  usedAt: string | null;
}

/** Asks for a new token. */
export interface TokenRequest {
  name: string;
  scope: TokenScope;
  /** How many days it lasts. */
  days: number;
}

/** A new token, with its value, which is not shown again. */
export interface NewToken extends TokenInfo {
  token: string;
}

/** Most characters of a person's name. */
export const MAX_PERSON_NAME = 60;
