import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import {
  contextInPackage,
  destinationFolder,
  hasStop,
  outputPlan,
  resolvePackage,
  runChecks,
  sourcesShown,
  titleDrawings,
  STANDARD_RECIPE,
  type Finding,
  type PlanInput,
  type ProjectFacts,
  type Recipe,
  type Sheet,
} from '@folvex/core';
import { packageWith, type DrawingInfo, type RunOptions } from '@folvex/contract';
import { lockFor, sourceId } from '@folvex/press';
import type { Connection, Database } from '../data/database';
import { drawingInfos, drawingSources, withReferred } from '../data/drawings';
import { packageById, projectFacts, projectInfo } from '../data/projects';
import { insertRun, runById } from '../data/runs';
import * as schema from '../data/schema';
import { thereAlready } from '../files/destination';
import type { Store } from '../files/store';
import { Refused } from '../http/answers';
import type { Queue } from './queue';
import { knownSheets } from './known-sheets';
import type { RunInput } from './run-input';

/** What starting a run needs. */
export interface Desk {
  connection: Connection;
  queue: Queue;
  store: Store;
  deliveryFolder: string;
}

/** So much of a run's id is printed. */
const SHORT_ID = 8;

export type StartedRun = { runId: string } | { findings: Finding[] } | undefined;

/**
 * Starts a run of a package: plan and checks first; then the run and its jobs are written in one transaction, so that
 * a crash leaves either both or neither. Undefined when there is no such package.
 */
export async function startRun(
  desk: Desk,
  projectId: string,
  packageId: string,
  runDate: string,
  { protect, pack: change = {} }: RunOptions = {},
): Promise<StartedRun> {
  const { db } = desk.connection;
  const [info, asked, own, latest] = await Promise.all([
    projectInfo(db, projectId),
    packageById(db, projectId, packageId),
    projectFacts(db, projectId),
    drawingInfos(db, projectId),
  ]);
  if (!info || !asked || !own) return undefined;
  const { package: pack, sheets: all } = resolvePackage(packageWith(asked, change), info.sheets, own.facts);
  const recipe = own.recipes.find(({ id }) => id === pack.recipe) ?? STANDARD_RECIPE;
  const input = {
    project: own.facts,
    groups: info.groups,
    sheets: all,
    package: pack,
    runDate,
    latest: byId(latest),
    recipe,
  };
  const plan = outputPlan(input);
  const folder = destinationFolder(input);
  const paths = plan.files.map(({ path }) => path);
  const there = folder?.ok ? thereAlready(join(desk.deliveryFolder, folder.value), paths) : [];
  const findings = runChecks({ ...input, there: new Set(there) }, plan);
  if (hasStop(findings)) return { findings };
  const sheets = pack.order.flatMap((id) => all.find((sheet) => sheet.id === id) ?? []);
  const drawings = await drawingsOf(db, projectId, own.facts, sheets);
  const lock = protect && lockOf(protect, recipe);
  const runId = randomUUID();
  const told = { ...input, runId: runId.slice(0, SHORT_ID) };
  const contexts = Object.fromEntries(sheets.map((sheet) => [sheet.id, contextInPackage(sheet, told)]));
  const frozen: RunInput = {
    ...{ project: own.facts, package: pack, recipe, sheets, groups: info.groups, contexts, drawings, plan },
    ...(lock && { lock }),
    ...(folder?.ok && { folder: folder.value }),
  };
  return { runId: await begin(desk, projectId, frozen, runId) };
}

/** What protects a run's files: only what follows from the passwords is kept, and they do not follow from that. */
function lockOf(protect: NonNullable<RunOptions['protect']>, { name, version }: Recipe): RunInput['lock'] {
  if (version !== '1.4' && version !== 'A-2b') return lockFor(protect, protect.allow);
  const why = version === '1.4' ? 'PDF 1.4, which cannot be protected safely' : 'PDF/A, which must stay open';
  throw new Refused(400, 'run.protect', `The recipe ${name} writes ${why}; choose another recipe.`);
}

/** What its drawings were for a run's sheets, with what these refer to. */
async function drawingsOf(
  db: Database,
  projectId: string,
  facts: ProjectFacts,
  sheets: readonly Sheet[],
): Promise<RunInput['drawings']> {
  const shown = new Set([
    ...sheets.flatMap(sourcesShown).map(({ drawing, held }) => sourceId(drawing, held)),
    ...sheets.flatMap((sheet) => titleDrawings(facts, sheet)),
  ]);
  return withReferred(await drawingSources(db, projectId), shown);
}

/**
 * Makes a run again from exactly what it was made from, whatever has changed since: what it made then is taken from the
 * store, and only what failed, or is gone, is made anew. Undefined where there is no such run.
 */
export async function repeatRun(desk: Desk, id: string): Promise<string | undefined> {
  const run = await runById(desk.connection.db, id);
  return run && begin(desk, run.projectId, run.input, randomUUID());
}

/**
 * Writes a run and its jobs in one transaction. What was made before has no job of its own: of a thousand sheets
 * of which one has changed, one is made.
 */
async function begin(
  { connection, queue, store }: Desk,
  projectId: string,
  input: RunInput,
  runId: string,
): Promise<string> {
  const { db, pool } = connection;
  const known = await knownSheets({ db, store }, input);
  const wanted = input.sheets.map((_, position) => position).filter((position) => !known.has(position));
  const client = await pool.connect();
  try {
    await client.query('begin');
    await insertRun(drizzle(client, { schema }), { id: runId, projectId, input, known });
    await queue.addSheets(
      // Where all is known, a job for the first sheet finds that and has the files put together.
      (wanted.length > 0 ? wanted : [0]).map((position) => ({ runId, position })),
      client,
    );
    await client.query('commit');
  } catch (error) {
    await client.query('rollback').catch(() => undefined);
    throw error;
  } finally {
    client.release();
  }
  return runId;
}

function byId(drawings: readonly DrawingInfo[]): NonNullable<PlanInput['latest']> {
  return new Map(drawings.map((drawing) => [drawing.id, { ...drawing, at: drawing.at.slice(0, 10) }]));
}
