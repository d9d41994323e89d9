import { randomUUID } from 'node:crypto';
import {
  checkRun,
  hasStop,
  prepareRun,
  preparedSheets,
  sameValue,
  sheetContexts,
  takenPaths,
  type ComposedFacts,
  type Finding,
  type PlanInput,
  type PreparedRun,
} from '@folvex/core';
import { packageWith, type DrawingInfo, type RunOptions } from '@folvex/contract';
import { issuedStates } from '../issues/issued-states';
import { lockFor } from '@folvex/press';
import { lookOrSay } from '../destinations';
import type { Sealer } from '../access/secrets';
import type { Author } from '../../data/audit';
import { inTransaction, type Connection, type Database } from '../../data/database';
import { drawingInfos, drawingSources } from '../../data/drawings';
import type { InProject } from '../../data/edits';
import { packagesOf, projectFacts, sheetsOf } from '../../data/projects';
import { inputHashesOfLatestRun, insertRun, runById, type NewRun } from '../../data/runs';
import { groupsOf } from '../../data/settings';
import type { Store } from '../../files/store';
import type { RunInput } from '../../model/run-input';
import type { Queue } from '../queue/queue';
import { drawingsOf, inputHash, inputOfSheet } from '../sheets/sheet-task';
import { refuseFullProject } from '../storage';
import { knownSheets, wholeSheet, type KnownSheet } from './known-sheets';

/** What starting a run needs. */
export interface StartRunDeps {
  connection: Connection;
  queue: Queue;
  store: Store;
  deliveryFolder: string;
  maxProjectBytes?: number | undefined;
  sealer: Sealer;
}

/** This much of a run's id is printed. */
const SHORT_ID_LENGTH = 8;

export type StartedRun = { runId: string } | { findings: Finding[] } | undefined;

/**
 * Starts a run of a package: plan and checks first; then the run and its jobs are written in one transaction, so that
 * a crash leaves either both or neither. Sheets that were made before are checked as they came out; the others are
 * checked when they are made, before any file is written. Undefined when there is no such package.
 */
export async function startRun(
  deps: StartRunDeps,
  within: InProject,
  packageId: string,
  runDate: string,
  options: RunOptions = {},
): Promise<StartedRun> {
  const planned = await planRun(deps, within, packageId, runDate, options);
  return planned && checkAndEnqueue(deps, within, planned);
}

/** The same; `unchanged` where its latest run was made from exactly these sheets. */
export async function startRunIfChanged(
  deps: StartRunDeps,
  within: InProject,
  packageId: string,
  runDate: string,
): Promise<StartedRun | 'unchanged'> {
  const planned = await planRun(deps, within, packageId, runDate, {});
  if (!planned) return undefined;
  const before = await inputHashesOfLatestRun(deps.connection.db, within.project, packageId);
  const hashes = planned.newSheets.map(({ inputHash: hash }) => hash);
  return sameValue(before, hashes) ? 'unchanged' : checkAndEnqueue(deps, within, planned);
}

/** A run as it would be, before its checks. */
interface PlannedRun {
  id: string;
  prepared: PreparedRun;
  frozen: RunInput;
  newSheets: PlannedSheet[];
}

async function planRun(
  deps: StartRunDeps,
  { project: projectId }: InProject,
  packageId: string,
  runDate: string,
  { protect, pack: change = {} }: RunOptions,
): Promise<PlannedRun | undefined> {
  const { db } = deps.connection;
  await refuseFullProject({ ...deps, db }, projectId);
  const id = randomUUID();
  const run = { runDate, runId: id.slice(0, SHORT_ID_LENGTH) };
  const prepared = await preparedRun(db, projectId, packageId, run, change);
  if (!prepared) return undefined;
  const { input, plan, destinations } = prepared;
  const sentTo = destinations.flatMap((one) => (one.ok ? [one.value] : []));
  // Only what follows from the passwords is kept, and they do not follow from that.
  const lock = protect && lockFor(protect, protect.allow);
  const sheets = preparedSheets(input);
  const frozen: RunInput = {
    ...{ project: input.project, package: input.package, recipe: input.recipe, sheets, groups: [...input.groups] },
    contexts: sheetContexts(input),
    drawings: drawingsOf(sheets, input.project, await drawingSources(db, projectId)),
    ...{ plan, runDate },
    ...(lock && { lock }),
    ...(sentTo.length > 0 && { destinations: sentTo }),
  };
  return { id, prepared, frozen, newSheets: await newRunSheets(deps, frozen) };
}

/** Checks a planned run, and has it made where nothing stops it. */
async function checkAndEnqueue(
  deps: StartRunDeps,
  { project: projectId, by }: InProject,
  { id, prepared, frozen, newSheets }: PlannedRun,
): Promise<NonNullable<StartedRun>> {
  const { db } = deps.connection;
  const paths = frozen.plan.files.map(({ path }) => path);
  // One that is away holds up neither the run nor the others: it gets its files when it is back.
  const looked = await Promise.all(
    prepared.destinations.map(async (one) => {
      const found = one.ok ? await lookOrSay({ ...deps, db }, projectId, one.value, paths) : undefined;
      return found && 'paths' in found ? found : undefined;
    }),
  );
  const findings = checkRun(prepared, {
    ...{ there: looked.map((found) => found && takenPaths(found)), plotters: looked.map((found) => found?.plotter) },
    pages: knownPages(frozen, newSheets),
    issued: new Map((await issuedStates(db, projectId)).map((state) => [state.sheet.id, state])),
    isProtected: frozen.lock !== undefined,
  });
  if (hasStop(findings)) return { findings };
  await enqueueRun(deps, { id, projectId, input: frozen, startedBy: by?.name ?? null }, newSheets);
  return { runId: id };
}

/** What a package would write, from what the database holds of it. */
async function preparedRun(
  db: Database,
  projectId: string,
  packageId: string,
  run: { runDate: string; runId: string },
  change: NonNullable<RunOptions['pack']>,
): Promise<PreparedRun | undefined> {
  const [own, groups, sheets, packages, drawings] = await Promise.all([
    projectFacts(db, projectId),
    groupsOf(db, projectId),
    sheetsOf(db, projectId),
    packagesOf(db, projectId),
    drawingInfos(db, projectId),
  ]);
  const asked = packages.find(({ id }) => id === packageId);
  if (!own || !asked) return undefined;
  const { facts: project, recipes } = own;
  const facts = { project, groups, sheets, recipes, packages, latest: latestDrawings(drawings) };
  return prepareRun({ ...facts, ...run, package: packageWith(asked, change) });
}

/**
 * Makes a run again from exactly what it was made from, whatever has changed since: what it made then is taken from the
 * store, and only what failed, or is gone, is made anew. Undefined where there is no such run.
 */
export async function repeatRun(deps: StartRunDeps, id: string, by: Author): Promise<string | undefined> {
  const { db } = deps.connection;
  const run = await runById(db, id);
  if (!run) return undefined;
  await refuseFullProject({ ...deps, db }, run.projectId);
  const runId = randomUUID();
  const { projectId, input } = run;
  const again = { id: runId, projectId, input, startedBy: by?.name ?? null };
  await enqueueRun(deps, again, await newRunSheets(deps, input));
  return runId;
}

/** A sheet of a run to be, by its position: what identifies its inputs, and what was made from them before. */
interface PlannedSheet {
  inputHash: string;
  known: KnownSheet;
}

async function newRunSheets({ connection, store }: StartRunDeps, input: RunInput): Promise<PlannedSheet[]> {
  const hashes = new Map(
    input.sheets.map((_, position) => [position, inputHash(inputOfSheet(input, position))] as const),
  );
  const known = await knownSheets({ db: connection.db, store }, input, hashes);
  return input.sheets.map((_, position) => ({ inputHash: hashes.get(position)!, known: known.get(position)! }));
}

function knownPages({ sheets }: RunInput, planned: readonly PlannedSheet[]): Map<string, ComposedFacts> {
  return new Map(
    planned.flatMap(({ known: { facts } }, position) => (facts ? [[sheets[position]!.id, facts] as const] : [])),
  );
}

/**
 * Writes a run and its jobs in one transaction. What was made before has no job of its own: of a thousand sheets
 * of which one has changed, one is made.
 */
async function enqueueRun(
  { connection, queue }: StartRunDeps,
  run: NewRun,
  planned: readonly PlannedSheet[],
): Promise<void> {
  const sheets = planned.map(({ inputHash: hash, known }) => ({ inputHash: hash, known: wholeSheet(known) }));
  const wanted = sheets.flatMap(({ known }, position) => (known ? [] : [{ runId: run.id, position }]));
  await inTransaction(connection.pool, async (tx) => {
    await insertRun(tx.db, run, sheets);
    if (wanted.length > 0) await queue.addSheets(tx, wanted);
    else await queue.addAssembly(tx, run.id);
  });
}

function latestDrawings(drawings: readonly DrawingInfo[]): NonNullable<PlanInput['latest']> {
  return new Map(drawings.map((drawing) => [drawing.id, { ...drawing, at: drawing.at.slice(0, 10) }]));
}
