import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm';
import type { DrawingChange, DrawingInfo } from '@folvex/contract';
import { judgeUnit, olderVersion, type NamedWindow } from '@folvex/core';
import { isHeld, sourceId, type DrawingFacts } from '@folvex/press';
import { NOW } from './clock';
import type { Database } from './database';
import { arrivals } from './inbox-schema';
import { drawings, earlierVersions, offeredFiles, projects } from './schema';

export type DrawingRow = typeof drawings.$inferSelect;
type EarlierRow = typeof earlierVersions.$inferSelect;

/** A drawing file as sheets are made from it; a held version has an id of its own. */
export interface DrawingSource {
  id: string;
  name: string;
  hash: string;
  unit: string | null;
  /** Files that it refers to, where that is known. */
  references: string[];
}

/** The drawings of a project, oldest first, with their earlier versions. */
export async function drawingInfos(db: Database, projectId: string): Promise<DrawingInfo[]> {
  const [rows, earlier] = await Promise.all([
    db
      .select()
      .from(drawings)
      .where(eq(drawings.projectId, projectId))
      .orderBy(asc(drawings.createdAt), asc(drawings.name)),
    earlierOf(db, projectId),
  ]);
  return rows.map((row) => infoOf(row, earlier));
}

/** One drawing with its earlier versions; undefined where there is no such drawing. */
export async function drawingInfoOf(db: Database, id: string): Promise<DrawingInfo | undefined> {
  const row = await drawingById(db, id);
  return row && infoOf(row, await earlierOf(db, row.projectId));
}

function infoOf(row: DrawingRow, earlier: readonly EarlierRow[]): DrawingInfo {
  const { id, name, hash, version, versionAt, bytes, unit, facts, miniature, windows, removedAt } = row;
  const { format, entities, blocks, layers, layouts, extents, warnings, fonts, references, titleBlocks } = facts;
  return {
    id,
    name,
    hash,
    version,
    at: versionAt.toISOString(),
    earlier: earlier
      .filter(({ drawingId }) => drawingId === id)
      .map((old) => ({
        version: old.version,
        name: old.name,
        hash: old.hash,
        bytes: old.bytes,
        at: old.at.toISOString(),
      })),
    bytes,
    unit,
    ownUnit: facts.unit,
    unitJudgement: facts.unitJudgement ?? judgeUnit(facts.unit ?? undefined, undefined, undefined),
    format,
    entities,
    blocks,
    layers,
    layouts,
    extents,
    warnings,
    // Facts found by an older Folvex lack these.
    fonts: fonts ?? [],
    references: references ?? [],
    titleBlocks: titleBlocks ?? [],
    hasMiniature: miniature !== null,
    windows,
    removedAt: removedAt?.toISOString() ?? null,
  };
}

async function earlierOf(db: Database, projectId: string): Promise<EarlierRow[]> {
  const rows = await db
    .select({ earlier: earlierVersions })
    .from(earlierVersions)
    .innerJoin(drawings, eq(drawings.id, earlierVersions.drawingId))
    .where(eq(drawings.projectId, projectId))
    .orderBy(desc(earlierVersions.version));
  return rows.map(({ earlier }) => earlier);
}

/**
 * Everything that sheets of a project can be made from: the latest versions and the earlier ones. Removed drawings are
 * among them: undo may bring back a sheet that shows one.
 */
export async function drawingSources(db: Database, projectId: string): Promise<DrawingSource[]> {
  const [rows, earlier] = await Promise.all([
    db.select().from(drawings).where(eq(drawings.projectId, projectId)).orderBy(desc(drawings.createdAt)),
    earlierOf(db, projectId),
  ]);
  const units = new Map(rows.map(({ id, unit }) => [id, unit]));
  // What an earlier version referred to is not kept; mostly it is the same.
  const references = new Map(rows.map(({ id, facts }) => [id, facts.references ?? []]));
  return [
    // A view held at the latest version shows that one.
    ...rows.flatMap(({ id, name, hash, unit, version, facts }) =>
      [id, sourceId(id, version)].map((source) => ({
        id: source,
        name,
        hash,
        unit,
        references: facts.references ?? [],
      })),
    ),
    ...earlier.map(({ drawingId, version, name, hash, unit }) => ({
      id: sourceId(drawingId, version),
      name,
      hash,
      unit: unit ?? units.get(drawingId) ?? null,
      references: references.get(drawingId) ?? [],
    })),
  ];
}

export async function drawingById(db: Database, id: string): Promise<DrawingRow | undefined> {
  return (await db.select().from(drawings).where(eq(drawings.id, id)))[0];
}

/** A drawing of a project, not a removed one, by its latest content, or by its name (case-blind). */
export async function findDrawing(
  db: Pick<Database, 'select'>,
  projectId: string,
  like: { hash: string } | { name: string },
): Promise<DrawingRow | undefined> {
  const same =
    'hash' in like ? eq(drawings.hash, like.hash) : sql`lower(${drawings.name}) = ${like.name.toLowerCase()}`;
  const [row] = await db
    .select()
    .from(drawings)
    .where(and(eq(drawings.projectId, projectId), isNull(drawings.removedAt), same))
    .orderBy(asc(drawings.createdAt))
    .limit(1);
  return row;
}

/** Id of the drawing, not a removed one, that a file of this name is a newer version of; undefined: none. */
export async function olderDrawing(db: Database, projectId: string, name: string): Promise<string | undefined> {
  const [own, [project]] = await Promise.all([
    db
      .select({ id: drawings.id, name: drawings.name })
      .from(drawings)
      .where(and(eq(drawings.projectId, projectId), isNull(drawings.removedAt)))
      .orderBy(asc(drawings.createdAt)),
    db.select({ facts: projects.facts }).from(projects).where(eq(projects.id, projectId)),
  ]);
  return olderVersion(own, name, project?.facts.versionMark)?.id;
}

/** The drawing, not a removed one, that has a content (SHA-256) as an earlier version; undefined: none. */
export async function earlierVersion(
  db: Database,
  projectId: string,
  hash: string,
): Promise<{ drawingId: string; version: number } | undefined> {
  const [found] = await db
    .select({ drawingId: drawings.id, version: earlierVersions.version })
    .from(earlierVersions)
    .innerJoin(drawings, eq(drawings.id, earlierVersions.drawingId))
    .where(and(eq(drawings.projectId, projectId), isNull(drawings.removedAt), eq(earlierVersions.hash, hash)))
    .orderBy(desc(earlierVersions.version))
    .limit(1);
  return found;
}

export interface NewDrawing {
  id: string;
  projectId: string;
  name: string;
  hash: string;
  bytes: number;
  unit: string | null;
  facts: DrawingFacts;
  miniature: string | null;
  windows?: NamedWindow[];
}

/** The result of adding a drawing: it was added, or one like it came in meanwhile. */
export type Added = 'added' | { known: string } | { sameName: string };

/**
 * Adds a drawing unless one of the same content, or (with `nameTaken: 'refuse'`) of the same name, is there. Files of one
 * drop come in side by side: they are looked at one after the other.
 */
export async function addDrawing(
  db: Database,
  drawing: NewDrawing,
  nameTaken: 'refuse' | 'allow' = 'refuse',
): Promise<Added> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${drawing.projectId}))`);
    const { projectId, hash, name } = drawing;
    const known = await findDrawing(tx, projectId, { hash });
    if (known) return { known: known.id };
    const sameName = nameTaken === 'refuse' ? await findDrawing(tx, projectId, { name }) : undefined;
    if (sameName) return { sameName: sameName.id };
    await tx.insert(drawings).values(drawing);
    return 'added';
  });
}

export type NextVersion = Pick<NewDrawing, 'name' | 'hash' | 'bytes' | 'facts' | 'miniature'>;

/** Puts a newer version in the place of a drawing's latest, which is kept for views that hold it. */
export async function addVersion(db: Database, id: string, next: NextVersion): Promise<void> {
  await db.transaction(async (tx) => {
    const [row] = await tx.select().from(drawings).where(eq(drawings.id, id)).for('update');
    // Sent twice, the second time changes nothing.
    if (!row || row.hash === next.hash) return;
    const { version, name, hash, bytes, unit, versionAt } = row;
    await tx.insert(earlierVersions).values({ drawingId: id, version, name, hash, bytes, unit, at: versionAt });
    await tx
      .update(drawings)
      .set({ ...next, version: version + 1, versionAt: NOW })
      .where(eq(drawings.id, id));
  });
}

/** Stores what a person set on a drawing; false where there is no such drawing. */
export async function changeDrawing(
  db: Database,
  id: string,
  { name, unit, windows }: DrawingChange,
): Promise<boolean> {
  const set = { ...(name && { name }), ...(unit && { unit }), ...(windows && { windows }) };
  if (Object.keys(set).length === 0) return (await drawingById(db, id)) !== undefined;
  return (await db.update(drawings).set(set).where(eq(drawings.id, id)).returning()).length > 0;
}

/** The sources of some ids with those that they refer to by name, and those in turn. */
export function withReferredDrawings(all: readonly DrawingSource[], ids: ReadonlySet<string>): DrawingSource[] {
  const taken = new Map(all.filter(({ id }) => ids.has(id)).map((source) => [source.id, source]));
  for (const source of taken.values()) {
    for (const name of source.references) {
      // A reference means the latest version.
      const other = all.find((one) => one.name.toLowerCase() === name.toLowerCase() && !isHeld(one.id));
      if (other && !taken.has(other.id)) taken.set(other.id, other);
    }
  }
  return [...taken.values()];
}

/** Id of the project of a drawing; undefined where there is no such drawing. */
export async function projectOfDrawing(db: Database, id: string): Promise<string | undefined> {
  return (await db.select({ project: drawings.projectId }).from(drawings).where(eq(drawings.id, id)))[0]?.project;
}

/** Ids of the projects that have a drawing of a content (SHA-256), now or in an earlier version, or were sent it. */
export async function projectsWithContent(db: Database, hash: string): Promise<string[]> {
  const [now, earlier, offered, arrived] = await Promise.all([
    db.selectDistinct({ id: drawings.projectId }).from(drawings).where(eq(drawings.hash, hash)),
    db
      .selectDistinct({ id: drawings.projectId })
      .from(earlierVersions)
      .innerJoin(drawings, eq(drawings.id, earlierVersions.drawingId))
      .where(eq(earlierVersions.hash, hash)),
    db.select({ id: offeredFiles.projectId }).from(offeredFiles).where(eq(offeredFiles.hash, hash)),
    db
      .selectDistinct({ id: arrivals.projectId })
      .from(arrivals)
      .where(sql`${arrivals.offered} ->> 'hash' = ${hash}`),
  ]);
  return [...new Set([...now, ...earlier, ...offered, ...arrived].map(({ id }) => id))];
}
