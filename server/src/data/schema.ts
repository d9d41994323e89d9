import {
  bigint,
  boolean,
  index,
  integer,
  pgTable,
  primaryKey,
  serial,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import type { ScheduleOutcome } from '@folvex/contract';
import type { NamedWindow } from '@folvex/core';
import type {
  ComposedFacts,
  ExtraFormat,
  GroupSettings,
  Issue,
  Problem,
  ProjectFacts,
  Proof,
  Recipe,
  Sheet,
  SheetPackage,
} from '@folvex/core';
import type { DrawingFacts } from '@folvex/press';
import type { RunInput } from '../model/run-input';
import type { ArtifactFacts, ExtraFormatFile } from '../model/artifacts';
import type { PackageEdit, SettingsEdit, SheetEdit } from '../model/edits';
import { json } from './storable';
import { stored } from './stored';

export const projects = pgTable('projects', {
  id: text('id').primaryKey(),
  facts: stored<ProjectFacts>('facts', 'project facts').notNull(),
  recipes: stored<Recipe[]>('recipes', 'recipes').notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  /** When it was removed; null: it was not. Removed rows stay, so that they can be restored. */
  removedAt: timestamp('removed_at', { withTimezone: true }),
});

export const groups = pgTable(
  'groups',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    id: text('id').notNull(),
    name: text('name').notNull(),
    position: integer('position').notNull(),
    /** What its sheets have unless they deviate. */
    sheets: stored<GroupSettings>('sheets', 'group settings'),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

/** One received drawing; its bytes and its miniature are in the store. */
export const drawings = pgTable('drawings', {
  id: text('id').primaryKey(),
  projectId: text('project_id')
    .notNull()
    .references(() => projects.id),
  name: text('name').notNull(),
  hash: text('hash').notNull(),
  bytes: bigint('bytes', { mode: 'number' }).notNull(),
  unit: text('unit'),
  facts: stored<DrawingFacts>('facts', 'drawing facts').notNull(),
  miniature: text('miniature'),
  /** Windows of its model that were given names; they stay when a newer version comes. */
  windows: stored<NamedWindow[]>('windows', 'windows')
    .notNull()
    .$defaultFn(() => []),
  /** Counts up with each newer file that took its place. */
  version: integer('version').notNull().default(1),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  /** When its present version came in. */
  versionAt: timestamp('version_at', { withTimezone: true }).notNull().defaultNow(),
  /** When it was removed; null: it was not. Removed rows stay, so that they can be restored. */
  removedAt: timestamp('removed_at', { withTimezone: true }),
});

/** Files that were sent to a project and wait for somebody's answer: a newer version, or a password. */
export const offeredFiles = pgTable(
  'offered_files',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    hash: text('hash').notNull(),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.hash] })],
);

/** Versions of drawings that newer ones took the place of; held views show them. */
export const earlierVersions = pgTable(
  'earlier_versions',
  {
    drawingId: text('drawing_id')
      .notNull()
      .references(() => drawings.id),
    version: integer('version').notNull(),
    name: text('name').notNull(),
    hash: text('hash').notNull(),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    unit: text('unit'),
    at: timestamp('at', { withTimezone: true }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.drawingId, t.version] })],
);

export const sheets = pgTable(
  'sheets',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    id: text('id').notNull(),
    position: integer('position').notNull(),
    sheet: stored<Sheet>('sheet', 'sheet').notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

/** What was done to the sheets and settings of a project, step by step; undone steps stay until something new is done. */
export const edits = pgTable(
  'edits',
  {
    id: serial('id').primaryKey(),
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    /** For people: `title of A-101`. */
    words: text('words').notNull(),
    changes: stored<SheetEdit[]>('changes', 'sheet edits').notNull(),
    /** Of an edit of the project's settings. */
    settings: stored<SettingsEdit>('settings', 'settings edit'),
    /** Of an edit of a package. */
    pack: stored<PackageEdit>('pack', 'package edit'),
    undone: boolean('undone').notNull().default(false),
    /** Name of who made it; null where nobody signs in. */
    author: text('author'),
    at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [index('edits_of_project').on(t.projectId, t.id)],
);

export const packages = pgTable(
  'packages',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    id: text('id').notNull(),
    position: integer('position').notNull(),
    pack: stored<SheetPackage>('pack', 'package').notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

/** How far the schedules of packages are. */
export const schedules = pgTable(
  'schedules',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    packageId: text('package_id').notNull(),
    /** The settings of the package that it follows; when they change, it starts afresh. */
    settings: text('settings').notNull(),
    /** What was due until then has been seen to. */
    handledAt: timestamp('handled_at', { withTimezone: true }).notNull(),
    /** Null: it was not due yet. */
    outcome: json<ScheduleOutcome>('outcome'),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.packageId] })],
);

export const runs = pgTable('runs', {
  id: text('id').primaryKey(),
  projectId: text('project_id')
    .notNull()
    .references(() => projects.id),
  packageId: text('package_id').notNull(),
  packageName: text('package_name').notNull(),
  /** What a person called it; null: it goes by the name of its package. */
  name: text('name'),
  /** Name of who started it; null where nobody signs in. */
  startedBy: text('started_by'),
  state: text('state').$type<'waiting' | 'running' | 'done' | 'failed' | 'cancelled'>().notNull(),
  /** Everything the run is made from, as it was when it was asked for. */
  input: stored<RunInput>('input', 'run input').notNull(),
  problem: json<Problem>('problem'),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  finishedAt: timestamp('finished_at', { withTimezone: true }),
  /** When it was removed; null: it was not. Removed rows stay, so that they can be restored. */
  removedAt: timestamp('removed_at', { withTimezone: true }),
});

export const runSheets = pgTable(
  'run_sheets',
  {
    runId: text('run_id')
      .notNull()
      .references(() => runs.id),
    position: integer('position').notNull(),
    sheetId: text('sheet_id').notNull(),
    state: text('state').$type<'waiting' | 'done' | 'failed'>().notNull(),
    partHash: text('part_hash'),
    milliseconds: integer('milliseconds'),
    problem: json<Problem>('problem'),
    /** Its files in formats other than PDF. */
    extraFormats: json<ExtraFormatFile[]>('extra_formats'),
    /** What checks look at, once it is made. */
    pageFacts: json<ComposedFacts>('page_facts'),
    /** Identifies all that it is made from (see `inputHash`). */
    inputHash: text('input_hash'),
    /** When its making began, and which process did it. */
    startedAt: timestamp('started_at', { withTimezone: true }),
    worker: text('worker'),
  },
  (t) => [primaryKey({ columns: [t.runId, t.position] })],
);

export const runFiles = pgTable(
  'run_files',
  {
    runId: text('run_id')
      .notNull()
      .references(() => runs.id),
    position: integer('position').notNull(),
    path: text('path').notNull(),
    /** Null: PDF. */
    format: text('format').$type<ExtraFormat>(),
    hash: text('hash').notNull(),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    pages: integer('pages').notNull(),
    sheets: json<string[]>('sheets').notNull(),
    startedAt: timestamp('started_at', { withTimezone: true }),
    milliseconds: integer('milliseconds'),
    /** What reading it again found; null until then. */
    proof: json<Proof>('proof'),
  },
  (t) => [primaryKey({ columns: [t.runId, t.position] })],
);

/** What was made from given inputs before (see `ARTIFACT_SOURCES`); its content is in the store. */
export const artifacts = pgTable(
  'artifacts',
  {
    kind: text('kind')
      .$type<'part' | 'extra-format' | 'page' | 'page-facts' | 'changes' | 'changes-picture' | 'space' | 'space-page'>()
      .notNull(),
    key: text('key').notNull(),
    hash: text('hash').notNull(),
    /** What is known of it without reading it: of a part what checks look at, of a file what it is. */
    facts: json<ArtifactFacts>('facts'),
    /** When it was last looked up, to the day. */
    usedAt: timestamp('used_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [primaryKey({ columns: [t.kind, t.key] })],
);

/** Worker processes that are alive, by their own word. */
export const workers = pgTable('workers', {
  id: text('id').primaryKey(),
  host: text('host').notNull(),
  pid: integer('pid').notNull(),
  seenAt: timestamp('seen_at', { withTimezone: true }).notNull().defaultNow(),
});

/** Browser windows that have a project open, as they report it. */
export const presence = pgTable(
  'presence',
  {
    /** Id of the window. */
    window: text('window').primaryKey(),
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    person: text('person').notNull(),
    name: text('name').notNull(),
    /** Id of the sheet that is being viewed; null: another place of the project. */
    sheet: text('sheet'),
    seenAt: timestamp('seen_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [index('presence_project').on(t.projectId)],
);

/** Jobs of the queue that were begun: who holds them now, under which attempt, and how earlier attempts ended. */
export const jobAttempts = pgTable(
  'job_attempts',
  {
    jobId: uuid('job_id').primaryKey(),
    /** Null while nobody holds it. */
    workerId: text('worker_id'),
    attempt: text('attempt'),
    crashes: integer('crashes').notNull().default(0),
    failures: integer('failures').notNull().default(0),
  },
  (t) => [index('job_attempts_worker').on(t.workerId), index('job_attempts_attempt').on(t.attempt)],
);

/** Runs that were formally handed over. Rows are written once and never changed. */
export const issues = pgTable(
  'issues',
  {
    id: text('id').primaryKey(),
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    number: integer('number').notNull(),
    runId: text('run_id')
      .notNull()
      .references(() => runs.id),
    issue: stored<Issue>('issue', 'issue').notNull(),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [uniqueIndex('issue_number').on(t.projectId, t.number)],
);

const transferServer = {
  id: text('id').notNull(),
  name: text('name').notNull(),
  address: text('address').notNull(),
  user: text('user').notNull(),
  /** Password or private key, sealed with a key that is not in the database; null: none. */
  sealed: text('sealed'),
  /** Fingerprint of the host key or certificate that was accepted. */
  fingerprint: text('fingerprint'),
};

/** Transfer servers of projects, which packages are delivered to by their ids. */
export const transferServers = pgTable(
  'transfer_servers',
  {
    projectId: text('project_id')
      .notNull()
      .references(() => projects.id),
    ...transferServer,
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

/** Transfer servers that all projects have; their ids begin with `office:`. */
export const officeServers = pgTable('office_servers', transferServer, (t) => [primaryKey({ columns: [t.id] })]);
