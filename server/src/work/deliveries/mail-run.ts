import { rm } from 'node:fs/promises';
import { fileFilter, type Issue } from '@folvex/core';
import { writtenTo, type DeliveredFile, type MailExtras, type MailPort } from '@folvex/press';
import { saveReceipts, type DeliveryRow } from '../../data/deliveries';
import { issuesOf, latestIssueOf } from '../../data/issues';
import { projectFacts } from '../../data/projects';
import { runById } from '../../data/runs';
import { registerHeading, registerWorkbook } from '../issues/register-workbook';
import { transmittalPdf } from '../issues/transmittal';
import type { LeasedJob } from '../queue/worker-queue';
import type { RunDeps } from '../runs/run-deps';
import { makeRecipientPage } from './recipient-page';
import { whileHeld, type Attempt, type UnsentFile } from './attempt';

type Receipts = Parameters<typeof saveReceipts>[2];

/**
 * Sends the files that its recipient gets in one email, with the transmittal and the register if their run was issued. Where it is not known whether an
 * earlier attempt was taken, they are sent again: better twice than never.
 */
export async function mailFiles(
  deps: RunDeps,
  job: LeasedJob,
  { delivery, projectId }: { delivery: DeliveryRow; projectId: string },
  { port, unsent }: { port: MailPort; unsent: readonly UnsentFile[] },
): Promise<Attempt> {
  const { id, runId } = delivery;
  const save = (receipts: Receipts) => whileHeld(deps, job, (db) => saveReceipts(db, delivery, receipts));
  const isTheirs = await filterFor(deps, projectId, delivery);
  const theirs = unsent.filter(isTheirs);
  // Written first: from when the email is there, its page must not show them.
  const leftOut = unsent.flatMap((file): Receipts => {
    const { position, path } = file;
    return isTheirs(file) ? [] : [[position, { path, how: 'left out' }]];
  });
  if (leftOut.length > 0 && !(await save(leftOut))) return { ended: 'given up' };
  if (theirs.length === 0) return { ended: 'through' };
  let enclosed: DeliveredFile[] = [];
  try {
    enclosed = await enclosedWith(deps, projectId, runId);
    const local = theirs.map(async ({ path, hash }) => ({ from: await deps.store.localFile(hash), hash, path }));
    const extras = { enclosed, page: pageMaker(deps, delivery) };
    const outcomes = await port.send(id, await Promise.all(local), extras);
    const goesOn = await save(theirs.map(({ position }, i) => [position, outcomes[i]!]));
    return { ended: goesOn ? 'through' : 'given up' };
  } finally {
    await Promise.all(enclosed.map(({ from }) => rm(from, { force: true })));
  }
}

/** Tells the files that the recipient of a delivery gets, as the people of the project are stated now. */
async function filterFor(
  { db }: RunDeps,
  projectId: string,
  { runId, destination }: DeliveryRow,
): Promise<(file: UnsentFile) => boolean> {
  const [run, project] = await Promise.all([runById(db, runId), projectFacts(db, projectId)]);
  if (!run || !project || destination.kind !== 'mail') return () => true;
  const { sheets, groups = [] } = run.input;
  return fileFilter({ project: project.facts, groups, sheets }, destination.to);
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
