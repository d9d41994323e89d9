import { rm } from 'node:fs/promises';
import type { Issue } from '@folvex/core';
import { writtenTo, type DeliveredFile, type MailExtras, type MailPort } from '@folvex/press';
import { saveReceipts, type DeliveryRow } from '../../data/deliveries';
import { issuesOf, latestIssueOf } from '../../data/issues';
import { projectFacts } from '../../data/projects';
import { registerHeading, registerWorkbook } from '../issues/register-workbook';
import { transmittalPdf } from '../issues/transmittal';
import type { LeasedJob } from '../queue/worker-queue';
import type { RunDeps } from '../runs/run-deps';
import { makeRecipientPage } from './recipient-page';
import { whileHeld, type Attempt, type UnsentFile } from './attempt';

/**
 * Sends files in one email, with the transmittal and the register if their run was issued. Where it is not known whether an
 * earlier attempt was taken, they are sent again: better twice than never.
 */
export async function mailFiles(
  deps: RunDeps,
  job: LeasedJob,
  { delivery, projectId }: { delivery: DeliveryRow; projectId: string },
  { port, unsent }: { port: MailPort; unsent: readonly UnsentFile[] },
): Promise<Attempt> {
  const { id, runId } = delivery;
  if (unsent.length === 0) return { ended: 'through' };
  let enclosed: DeliveredFile[] = [];
  try {
    enclosed = await enclosedWith(deps, projectId, runId);
    const local = unsent.map(async ({ path, hash }) => ({ from: await deps.store.localFile(hash), hash, path }));
    const extras = { enclosed, page: pageMaker(deps, delivery) };
    const outcomes = await port.send(id, await Promise.all(local), extras);
    const receipts = unsent.map(({ position }, i) => [position, outcomes[i]!] as const);
    const goesOn = await whileHeld(deps, job, (db) => saveReceipts(db, delivery, receipts));
    return { ended: goesOn ? 'through' : 'given up' };
  } finally {
    await Promise.all(enclosed.map(({ from }) => rm(from, { force: true })));
  }
}

/** Puts the files of a delivery on a page for its recipient; undefined where nobody could open one. */
function pageMaker({ db, sealer, officeUrl }: RunDeps, { id, destination }: DeliveryRow): MailExtras['page'] {
  if (officeUrl === undefined || destination.kind !== 'mail') return undefined;
  return () => makeRecipientPage({ db, sealer, officeUrl }, id, destination);
}

/**
 * The transmittal of the latest issue of a run, and the register of what was issued to its recipients up to then; nothing
 * where it was not issued.
 */
async function enclosedWith(deps: RunDeps, projectId: string, runId: string): Promise<DeliveredFile[]> {
  const { db, store } = deps;
  const [issue, project] = await Promise.all([latestIssueOf(db, runId), projectFacts(db, projectId)]);
  if (!issue || !project) return [];
  // What was issued to others only is not for these recipients.
  const isTheirs = ({ number, recipients }: Issue): boolean =>
    number <= issue.number && (number === issue.number || recipients.some((one) => issue.recipients.includes(one)));
  const issues = (await issuesOf(db, projectId)).filter(isTheirs);
  // Both are made before either is written: nothing stays behind where one cannot be.
  const contents = [
    [`Transmittal ${issue.number}.pdf`, await transmittalPdf(deps, project.facts, issue)],
    ['Issue register.xlsx', await registerWorkbook(registerHeading(project.facts), issues)],
  ] as const;
  return contents.map(([path, content]) => {
    const { temporary, hash } = writtenTo(store.workFolder, content);
    return { from: temporary, hash, path };
  });
}
