import type { AtDestination } from '@folvex/contract';
import { mailFaults, resolveDestination, ProblemError, type Destination, type Mail } from '@folvex/core';
import { inTransaction, type Connection, type Database } from '../../data/database';
import { projectFacts } from '../../data/projects';
import { runById, runFilesOf, type RunRow } from '../../data/runs';
import { Refused } from '../../errors';
import { lookInto } from '../destinations';
import type { Queue } from '../queue/queue';
import type { Sealer } from '../access/secrets';
import { addDeliveries } from './add-deliveries';

interface Deps {
  connection: Connection;
  deliveryFolder: string;
  sealer: Sealer;
  queue: Queue;
}

/** What of a run is at a destination already. Undefined where there is no such run. */
export async function lookForRun(
  deps: Deps,
  runId: string,
  destination: Destination,
): Promise<AtDestination | undefined> {
  const run = await runById(deps.connection.db, runId);
  if (!run) return undefined;
  const paths = (await runFilesOf(deps.connection.db, runId)).map(({ path }) => path);
  const { db } = deps.connection;
  return lookInto({ ...deps, db }, run.projectId, await resolved(db, run, destination), paths);
}

/** Has a finished run sent to a destination, in addition to where it was sent before. False where there is no such run. */
export async function startDelivery(
  deps: Deps,
  runId: string,
  destination: Destination,
  startedBy: string | null,
): Promise<boolean> {
  const { connection, queue } = deps;
  const run = await runById(connection.db, runId);
  if (!run) return false;
  if (run.state !== 'done' || run.removedAt)
    throw new Refused(409, 'delivery.run', 'Only a run that is complete, and not removed, can be sent.');
  const sentTo = await resolved(connection.db, run, destination);
  if (sentTo.kind === 'mail') refuseAddresses(sentTo);
  else if ('onConflict' in sentTo && sentTo.onConflict === 'stop') await refuseTaken(deps, run, destination);
  await inTransaction(connection.pool, (tx) => addDeliveries(tx, queue, { runId, startedBy, destination: sentTo }));
  return true;
}

/** Refuses a destination where names are taken. If it cannot be reached now, each name is checked when its file is sent. */
async function refuseTaken(deps: Deps, { id }: RunRow, destination: Destination): Promise<void> {
  const found = await lookForRun(deps, id, destination).catch((error: unknown) => {
    if (error instanceof ProblemError && error.problem.code === 'destination.away') return undefined;
    throw error;
  });
  const [first, ...others] = found?.paths ?? [];
  if (first === undefined) return;
  const taken = others.length === 0 ? `${first} is` : `${first} and ${others.length} more are`;
  const sentence = `${taken} at the destination already, and nothing was sent; choose what to do about files that exist.`;
  throw new Refused(409, 'destination.conflict', sentence, { file: first });
}

function refuseAddresses(mail: Mail): void {
  const [fault] = mailFaults(mail);
  if (fault) throw new Refused(400, fault.code, fault.sentence);
}

/** A destination with the fields in its rules as they were when the run was started, and people as they are now. */
async function resolved(db: Database, { projectId, input }: RunRow, destination: Destination): Promise<Destination> {
  const { package: pack, runDate = '' } = input;
  const people = (await projectFacts(db, projectId))?.facts.people;
  const project = { ...input.project, ...(people && { people }) };
  const outcome = resolveDestination(destination, { project, package: pack, runDate });
  if (!outcome.ok) throw new ProblemError(outcome.problem);
  return outcome.value;
}
