import { hasArrived, ProblemError, type ConflictPolicy, type Problem } from '@folvex/core';
import type { Delivered } from '@folvex/contract';
import { deliver, type DestinationPort, type MailPort, type PlotterPort } from '@folvex/press';
import { recordAudit } from '../../data/audit';
import type { Transaction } from '../../data/database';
import {
  beginDelivery,
  deliveryById,
  finishDelivery,
  outcomesOf,
  postponeDelivery,
  saveReceipts,
  type DeliveryRow,
  type DeliveryTurn,
} from '../../data/deliveries';
import { runFilesOf } from '../../data/runs';
import type { Store } from '../../files/store';
import { portTo } from '../destinations';
import { pauseAfter } from '../queue/pauses';
import type { LeasedJob } from '../queue/worker-queue';
import { isHopeless } from '../runs/make-sheets';
import type { RunDeps } from '../runs/run-deps';
import { announceDelivery } from '../webhooks/announce';
import { attemptFailed, whileHeld, type Attempt, type UnsentFile } from './attempt';
import { mailFiles } from './mail-run';
import { cancelPrinting, printFiles } from './print-run';

/** How often it is looked how far a plotter is, s. */
const PRINTING_S = 5;

type Found = NonNullable<Awaited<ReturnType<typeof deliveryById>>>;

/**
 * Sends the files of a run that a delivery has no receipt of yet. When the server goes away, the delivery waits and goes on
 * where it stopped.
 */
export async function sendDelivery(deps: RunDeps, job: LeasedJob, { id, renewals }: DeliveryTurn): Promise<void> {
  const { db, held } = deps;
  const drop = (): Promise<void> => held.finish([job], async () => undefined);
  const found = await deliveryById(db, id);
  if (found?.delivery.renewals !== renewals) return drop();
  const { delivery, projectId } = found;
  const end = (problem: Problem): Promise<void> => held.finish([job], (tx) => endDelivery(deps, tx, found, problem));
  if (isHopeless(job)) return end(stoppedWorkers());
  const port = await portTo(deps, projectId, delivery.destination).catch(problemIn);
  if ('problem' in port) return end(port.problem);
  try {
    if (!(await whileHeld(deps, job, (tx) => beginDelivery(tx, delivery, port.where)))) {
      if ('print' in port) await cancelPrinting(port, delivery.plot);
      return await drop();
    }
    const before = await outcomesOf(db, id);
    const unsent = (await runFilesOf(db, delivery.runId)).filter(({ position }) => !before.has(position));
    const attempt = await attemptBy(deps, job, found, port, unsent).catch(attemptFailed);
    if (attempt.ended === 'given up') return await drop();
    await held.finish([job], (tx) => concludeAttempt(deps, tx, found, { attempt, arrivedBefore: before.size }));
  } finally {
    await port.close();
  }
}

function attemptBy(
  deps: RunDeps,
  job: LeasedJob,
  found: Found,
  port: DestinationPort | MailPort | PlotterPort,
  unsent: readonly UnsentFile[],
): Promise<Attempt> {
  if ('send' in port) return mailFiles(deps, job, found, { port, unsent });
  if ('print' in port) return printFiles(deps, job, found, { port, unsent });
  return sendFiles(deps, job, found.delivery, { port, unsent });
}

/** Ends a delivery, or has it wait: for its next attempt, or to be looked at again. */
async function concludeAttempt(
  deps: RunDeps,
  tx: Transaction,
  found: Found,
  { attempt, arrivedBefore }: { attempt: Exclude<Attempt, { ended: 'given up' }>; arrivedBefore: number },
): Promise<void> {
  const { delivery } = found;
  const { queue } = deps;
  const wait = async (attempts: number, seconds: number, problem: Problem | null): Promise<void> => {
    const isWaiting = await postponeDelivery(tx.db, delivery, { attempts, seconds, problem });
    if (isWaiting) await queue.addDelivery(tx, delivery, seconds);
    // It was cancelled meanwhile: the next look cancels it at the plotter too.
    else if (attempt.ended === 'printing') await queue.addDelivery(tx, delivery);
  };
  switch (attempt.ended) {
    case 'through':
      return endDelivery(deps, tx, found, null);
    case 'refused':
      return endDelivery(deps, tx, found, attempt.problem);
    case 'printing':
      return wait(0, PRINTING_S, null);
    case 'away': {
      // Where something arrived, the server is only slow or unsteady.
      const hasArrived = (await outcomesOf(tx.db, delivery.id)).size > arrivedBefore;
      const attempts = hasArrived ? 1 : delivery.attempts + 1;
      const seconds = pauseAfter(attempts);
      return seconds === undefined
        ? endDelivery(deps, tx, found, attempt.problem)
        : wait(attempts, seconds, attempt.problem);
    }
  }
}

async function sendFiles(
  deps: RunDeps,
  job: LeasedJob,
  delivery: DeliveryRow,
  { port, unsent }: { port: DestinationPort; unsent: readonly UnsentFile[] },
): Promise<Attempt> {
  const onConflict = conflictPolicyOf(delivery);
  for (const { position, path, hash } of unsent) {
    const sendIt = (): Promise<Delivered> => sendStored(deps.store, port, { path, hash }, onConflict);
    let outcome = await sendIt();
    for (let repeated = false; hasProblem(outcome, 'destination.copy'); repeated = true) {
      if (!(await answers(port, path))) return { ended: 'away', problem: outcome.problem };
      if (repeated) break;
      // Perhaps only the connection broke.
      outcome = await sendIt();
    }
    // Asking again with each file would only lock the account.
    if (hasProblem(outcome, 'destination.refused')) return { ended: 'refused', problem: outcome.problem };
    if (!(await whileHeld(deps, job, (tx) => saveReceipts(tx, delivery, [[position, outcome]]))))
      return { ended: 'given up' };
  }
  return { ended: 'through' };
}

function hasProblem(outcome: Delivered, code: Problem['code']): outcome is { problem: Problem } {
  return 'problem' in outcome && outcome.problem.code === code;
}

/** Whether a destination answers at all: if it does, it is the file that it refuses. */
async function answers(port: DestinationPort, path: string): Promise<boolean> {
  return port.find(path).then(
    () => true,
    () => false,
  );
}

async function sendStored(
  store: Store,
  port: DestinationPort,
  { path, hash }: { path: string; hash: string },
  onConflict: ConflictPolicy,
): Promise<Delivered> {
  try {
    return await deliver(port, { from: await store.localFile(hash), hash, path }, onConflict);
  } catch (error) {
    return problemIn(error);
  }
}

function conflictPolicyOf({ destination }: DeliveryRow): ConflictPolicy {
  return 'onConflict' in destination ? destination.onConflict : 'stop';
}

/** Ends a delivery, with a line in the audit; its receipts stay with its run. */
async function endDelivery(
  { queue }: RunDeps,
  tx: Transaction,
  { delivery, projectId }: Found,
  problem: Problem | null,
): Promise<void> {
  const { id } = delivery;
  const { db } = tx;
  const outcomes = [...(await outcomesOf(db, id)).values()];
  const arrived = outcomes.filter(hasArrived).length;
  const state = problem || outcomes.some((outcome) => 'problem' in outcome) ? 'failed' : 'done';
  if (!(await finishDelivery(db, delivery, state, problem))) return;
  const location = (await deliveryById(db, id))?.delivery.location ?? '';
  const subject = `${location} (${arrived === 1 ? 'one file' : `${arrived} files`})`.trim();
  await recordAudit(db, { by: null, event: `delivery.${state}`, projectId, subject });
  await announceDelivery(tx, queue, id);
}

function stoppedWorkers(): Problem {
  const sentence = 'Sending stopped the worker again and again and was given up; look into the log of the worker.';
  return { code: 'delivery.given-up', sentence, place: {} };
}

function problemIn(error: unknown): { problem: Problem } {
  if (error instanceof ProblemError) return { problem: error.problem };
  throw error;
}
