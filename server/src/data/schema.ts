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
  uniqueIndex,
} from 'drizzle-orm/pg-core';
import type { Delivered, NamedWindow } from '@folvex/contract';
import type {
  BesideFormat,
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
import type { RunInput } from '../work/run-input';
import type { MadeBesideFile } from '../work/beside-files';
import type { SheetEdit } from './edits';
import type { PackageEdit } from './package-edits';
import type { SettingsEdit } from './settings';

export const projects = pgTable('projects', {
  id: text('id').primaryKey(),
  facts: jsonb('facts').$type<ProjectFacts>().notNull(),
  recipes: jsonb('recipes').$type<Recipe[]>().notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
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
    sheets: jsonb('sheets').$type<GroupSettings>(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

/** One received drawing; its bytes and its miniature lie in the store. */
export const drawings = pgTable('drawings', {
  id: text('id').primaryKey(),
  projectId: text('project_id')
    .notNull()
    .references(() => projects.id),
  name: text('name').notNull(),
  hash: text('hash').notNull(),
  bytes: bigint('bytes', { mode: 'number' }).notNull(),
  unit: text('unit'),
  facts: jsonb('facts').$type<DrawingFacts>().notNull(),
  miniature: text('miniature'),
  /** Windows of its model that were given names; they stay when a newer version comes. */
  windows: jsonb('windows').$type<NamedWindow[]>().notNull().default([]),
  /** Counts up with each newer file that took its place. */
  version: integer('version').notNull().default(1),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  /** When its present version came in. */
  versionAt: timestamp('version_at', { withTimezone: true }).notNull().defaultNow(),
});

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
    sheet: jsonb('sheet').$type<Sheet>().notNull(),
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
    changes: jsonb('changes').$type<SheetEdit[]>().notNull(),
    /** Of an edit of the project's settings. */
    settings: jsonb('settings').$type<SettingsEdit>(),
    /** Of an edit of a package. */
    pack: jsonb('pack').$type<PackageEdit>(),
    undone: boolean('undone').notNull().default(false),
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
    pack: jsonb('pack').$type<SheetPackage>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.projectId, t.id] })],
);

export const runs = pgTable('runs', {
  id: text('id').primaryKey(),
  projectId: text('project_id')
    .notNull()
    .references(() => projects.id),
  packageId: text('package_id').notNull(),
  packageName: text('package_name').notNull(),
  state: text('state').$type<'waiting' | 'running' | 'done' | 'failed' | 'cancelled'>().notNull(),
  /** Everything the run is made from, as it was when it was asked for. */
  input: jsonb('input').$type<RunInput>().notNull(),
  problem: jsonb('problem').$type<Problem>(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  finishedAt: timestamp('finished_at', { withTimezone: true }),
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
    problem: jsonb('problem').$type<Problem>(),
    /** What was written of it beside PDF. */
    beside: jsonb('beside').$type<MadeBesideFile[]>(),
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
    format: text('format').$type<BesideFormat>(),
    hash: text('hash').notNull(),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    pages: integer('pages').notNull(),
    sheets: jsonb('sheets').$type<string[]>().notNull(),
    startedAt: timestamp('started_at', { withTimezone: true }),
    milliseconds: integer('milliseconds'),
    /** What became of it at its destination; null where it is not delivered, or not yet. */
    delivered: jsonb('delivered').$type<Delivered>(),
    /** What reading it again found; null until then. */
    proof: jsonb('proof').$type<Proof>(),
  },
  (t) => [primaryKey({ columns: [t.runId, t.position] })],
);

/** What was made from given inputs before: a page for the screen or a part for a PDF, by the inputs' hash. */
export const made = pgTable(
  'made',
  {
    kind: text('kind')
      .$type<'part' | 'beside' | 'page' | 'page-facts' | 'changes' | 'changes-picture' | 'space' | 'space-page'>()
      .notNull(),
    inputHash: text('input_hash').notNull(),
    hash: text('hash').notNull(),
  },
  (t) => [uniqueIndex('made_key').on(t.kind, t.inputHash)],
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
    issue: jsonb('issue').$type<Issue>().notNull(),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [uniqueIndex('issue_number').on(t.projectId, t.number)],
);
