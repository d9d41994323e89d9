import {
  bigint,
  boolean,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  serial,
  text,
  timestamp,
} from 'drizzle-orm/pg-core';
import type { AuditEvent, Role, TokenScope } from '@folvex/contract';
import { projects } from './schema';

/** People who sign in, where Folvex serves an office. */
export const accounts = pgTable('accounts', {
  id: text('id').primaryKey(),
  /** In lower case. */
  email: text('email').notNull().unique(),
  name: text('name').notNull(),
  /** Argon2id in its encoded form; null: this person signs in elsewhere. */
  passwordHash: text('password_hash'),
  /** Issuer and subject by which an OpenID provider knows the person (OpenID Connect Core 1.0, 5.7). */
  openId: text('open_id').unique(),
  /** Owners of the installation have every right in every project. */
  isOwner: boolean('is_owner').notNull().default(false),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  /** When it was closed; null: it is open. */
  closedAt: timestamp('closed_at', { withTimezone: true }),
});

export const members = pgTable(
  'members',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    accountId: text('account_id')
      .notNull()
      .references(() => accounts.id),
    role: text('role').$type<Role>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.accountId] }), index('members_account').on(t.accountId)],
);

/** Links by which somebody without an account gets one. Only the hash of what the link holds is kept. */
export const invitations = pgTable('invitations', {
  hash: text('hash').primaryKey(),
  /** Null: whoever opens the link says. Only that of the first owner. */
  email: text('email'),
  isOwner: boolean('is_owner').notNull().default(false),
  projectId: text('project_id').references(() => projects.id),
  role: text('role').$type<Role>(),
  expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
});

/** Tokens of scripts; only their hashes are kept. */
export const tokens = pgTable('tokens', {
  id: text('id').primaryKey(),
  hash: text('hash').notNull().unique(),
  accountId: text('account_id')
    .notNull()
    .references(() => accounts.id),
  name: text('name').notNull(),
  scope: text('scope').$type<TokenScope>().notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
  usedAt: timestamp('used_at', { withTimezone: true }),
});

/** Sessions of browsers, as connect-pg-simple keeps them. */
export const sessions = pgTable(
  'sessions',
  {
    sid: text('sid').primaryKey(),
    sess: jsonb('sess').$type<{ account?: string }>().notNull(),
    expire: timestamp('expire', { precision: 6 }).notNull(),
  },
  (t) => [index('sessions_expire').on(t.expire)],
);

/** Failed tries to sign in, as rate-limiter-flexible counts them. */
export const signInTries = pgTable('sign_in_tries', {
  key: text('key').primaryKey(),
  points: integer('points').notNull().default(0),
  expire: bigint('expire', { mode: 'number' }),
});

/** Who did what and when. Rows are only added: a trigger refuses everything else. */
export const audit = pgTable(
  'audit',
  {
    id: serial('id').primaryKey(),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
    /** Null: nobody was signed in. Neither it nor the project is a reference: what happened outlasts both. */
    accountId: text('account_id'),
    /** Name of the account at that time. */
    name: text('name'),
    event: text('event').$type<AuditEvent>().notNull(),
    projectId: text('project_id'),
    /** What it was done to: `A-101`, an address, the name of a file. */
    subject: text('subject').notNull().default(''),
  },
  (t) => [index('audit_project').on(t.projectId, t.id)],
);
