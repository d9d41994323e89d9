import { rm } from 'node:fs/promises';
import { writtenTo, type DeliveredFile, type MailExtras, type MailPort } from '@folvex/press';
import { saveReceipts, type DeliveryRow } from '../../data/deliveries';
import { latestIssueOf } from '../../data/issues';
import { projectFacts } from '../../data/projects';
import { transmittalPdf } from '../issues/transmittal';
import type { LeasedJob } from '../queue/worker-queue';
import type { RunDeps } from '../runs/run-deps';
import { makeRecipientPage } from './recipient-page';
import { whileHeld, type Attempt, type UnsentFile } from './attempt';

/**
 * Sends files in one email, with the transmittal if their run was issued. Where it is not known whether an earlier attempt
 * was taken, they are sent again: better twice than never.
 */
export async function mailFiles(
  deps: RunDeps,
  job: LeasedJob,
  { delivery, projectId }: { delivery: DeliveryRow; projectId: string },
  { port, unsent }: { port: MailPort; unsent: readonly UnsentFile[] },
): Promise<Attempt> {
  const { id, runId } = delivery;
  if (unsent.length === 0) return { ended: 'through' };
  let transmittal: DeliveredFile | undefined;
  try {
    transmittal = await transmittalOf(deps, projectId, runId);
    const local = unsent.map(async ({ path, hash }) => ({ from: await deps.store.localFile(hash), hash, path }));
    const extras = { enclosed: transmittal && [transmittal], page: pageMaker(deps, delivery) };
    const outcomes = await port.send(id, await Promise.all(local), extras);
    const receipts = unsent.map(({ position }, i) => [position, outcomes[i]!] as const);
    const goesOn = await whileHeld(deps, job, (db) => saveReceipts(db, delivery, receipts));
    return { ended: goesOn ? 'through' : 'given up' };
  } finally {
    if (transmittal) await rm(transmittal.from, { force: true });
  }
}

/** Puts the files of a delivery on a page for its recipient; undefined where nobody could open one. */
function pageMaker({ db, sealer, officeUrl }: RunDeps, { id, destination }: DeliveryRow): MailExtras['page'] {
  if (officeUrl === undefined || destination.kind !== 'mail') return undefined;
  return () => makeRecipientPage({ db, sealer, officeUrl }, id, destination);
}

/** The transmittal of the latest issue of a run, in a file of its own; undefined where it was not issued. */
async function transmittalOf(deps: RunDeps, projectId: string, runId: string): Promise<DeliveredFile | undefined> {
  const [issue, project] = await Promise.all([latestIssueOf(deps.db, runId), projectFacts(deps.db, projectId)]);
  if (!issue || !project) return undefined;
  const pdf = await transmittalPdf(deps, project.facts, issue);
  const { temporary, hash } = writtenTo(deps.store.workFolder, pdf);
  return { from: temporary, hash, path: `Transmittal ${issue.number}.pdf` };
}
