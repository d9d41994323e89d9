import { mailFaults, ProblemError, recipientsIn, type Mail, type ProjectFacts, type SheetPackage } from '@folvex/core';
import { StepFailed, type MailPort } from '@folvex/press';
import { recordAudit } from '../../data/audit';
import type { Transaction } from '../../data/database';
import { projectFacts } from '../../data/projects';
import { noteUntold } from '../../data/schedules';
import type { TellQueueTask } from '../../model/queue-task';
import { portTo } from '../destinations';
import { pauseAfter } from '../queue/pauses';
import type { Queue } from '../queue/queue';
import type { LeasedJob } from '../queue/worker-queue';
import { isHopeless } from './make-sheets';
import type { RunDeps } from './run-deps';

/** The result of a schedule: a problem, or how many files its run has written. */
export type Result = { problem: string } | { files: number };

/** Has the result of a package's schedule emailed, once the transaction commits. `run`: that it started; null: none. */
export async function tellResult(
  tx: Transaction,
  queue: Queue,
  { projectId, pack, run }: { projectId: string; pack: SheetPackage; run: string | null },
  result: Result,
): Promise<void> {
  const { tellTo = '', tellFrom = '', tellServer = '' } = pack;
  if (tellTo.trim() === '') return;
  const project = (await projectFacts(tx.db, projectId))!.facts;
  const mail = { server: tellServer, from: tellFrom.trim(), ...wordsOf(project, pack, result) };
  const [fault] = mailFaults({ kind: 'mail', ...mail, to: tellTo }, project.people);
  const outcome = { projectId, packageId: pack.id, run };
  if (fault) await noteUntold(tx.db, outcome, fault.sentence);
  if (fault?.code === 'mail.nobody') return;
  for (const to of recipientsIn(tellTo, project.people).addresses)
    await queue.addTelling(tx, { ...outcome, mail: { ...mail, to }, attempts: 0 });
}

function wordsOf(
  { number, name }: ProjectFacts,
  pack: SheetPackage,
  result: Result,
): Pick<Mail, 'subject'> & { text: string } {
  const of = `${pack.name} of ${[number, name].filter(Boolean).join(' ')}`;
  if ('problem' in result) {
    const text = `The schedule did not publish ${of}: ${result.problem}`;
    return { subject: `Not published: ${pack.name} (${number || name})`, text };
  }
  const files = result.files === 1 ? 'One file was' : `${result.files} files were`;
  const sent = (pack.destinations ?? []).length > 0 ? ' Sending to the destinations of the package has begun.' : '';
  return {
    subject: `Published: ${pack.name} (${number || name})`,
    text: `The schedule published ${of}. ${files} written.${sent}`,
  };
}

/** Emails the result of a schedule to one person; where the mail server is away, again after growing pauses. */
export async function sendTelling(deps: RunDeps, job: LeasedJob, task: TellQueueTask): Promise<void> {
  const { projectId, mail, attempts } = task;
  const failure = isHopeless(job)
    ? new Error('Sending it crashed the worker several times.')
    : await attempt(deps, job, task);
  const seconds = failure instanceof StepFailed && failure.step === 'connection' ? pauseAfter(attempts + 1) : undefined;
  await deps.held.finish([job], async (tx) => {
    if (seconds !== undefined) return deps.queue.addTelling(tx, { ...task, attempts: attempts + 1 }, seconds);
    const event = failure ? 'schedule.untold' : 'schedule.told';
    const subject = failure ? `${mail.to}: ${failure.message}` : mail.to;
    await recordAudit(tx.db, { by: null, event, projectId, subject });
    if (failure) await noteUntold(tx.db, task, `The result could not be emailed to ${mail.to}: ${failure.message}`);
  });
}

/** Tries once; resolves with what went wrong. */
async function attempt(deps: RunDeps, job: LeasedJob, { projectId, mail }: TellQueueTask): Promise<Error | undefined> {
  try {
    const port = (await portTo(deps, projectId, { kind: 'mail', ...mail })) as MailPort;
    await port.send(job.id, []);
    return undefined;
  } catch (error) {
    if (error instanceof ProblemError) return new Error(error.problem.sentence);
    if (error instanceof StepFailed) return error;
    throw error;
  }
}
