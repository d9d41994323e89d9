import { randomUUID } from 'node:crypto';
import type { NewIssue } from '@folvex/contract';
import { isExtraPage, type Issue } from '@folvex/core';
import { inTransaction, type Connection } from '../../data/database';
import { addIssue, issuesOf } from '../../data/issues';
import { runById, runFilesOf } from '../../data/runs';
import { notFound, Refused } from '../../errors';
import type { Queue } from '../queue/queue';
import { announceIssue } from '../webhooks/announce';

/** Makes a run an issue: what it held is written down once, as it was when the run was made. */
export async function issueRun(
  { connection, queue }: { connection: Connection; queue: Queue },
  projectId: string,
  wanted: NewIssue,
): Promise<Issue> {
  const { db } = connection;
  const run = await runById(db, wanted.run);
  if (!run || run.projectId !== projectId) throw notFound('The run');
  if (run.state !== 'done') {
    const sentence = 'Only a run that is done can be issued; publish the package again, and issue that run.';
    throw new Refused(409, 'issue.unfinished', sentence);
  }
  const earlier = await issuesOf(db, projectId);
  const replaced = wanted.supersedes ? earlier.find(({ id }) => id === wanted.supersedes) : undefined;
  if (wanted.supersedes && !replaced) throw notFound('The issue that it takes the place of');
  const later = replaced && earlier.find(({ supersedes }) => supersedes === replaced.id);
  if (replaced && later) {
    const sentence = `Issue ${replaced.number} was superseded by issue ${later.number} already; supersede that one.`;
    throw new Refused(409, 'issue.superseded', sentence);
  }
  const files = await runFilesOf(db, run.id);
  const { date, purpose, recipients, remarks = '' } = wanted;
  const written: Omit<Issue, 'number'> = {
    id: randomUUID(),
    ...{ date, purpose, recipients, remarks, packageName: run.packageName, runId: run.id },
    ...(replaced && { supersedes: replaced.id }),
    sheets: run.input.sheets
      // Pages that the package added are not sheets of the project.
      .filter(({ id }) => !isExtraPage(run.input.package, id))
      .map(({ id, number, title, revision }) => ({ id, number, title, revision: revision?.index ?? '' })),
    files: files.map(({ path, pages, bytes, hash }) => ({ path, pages, bytes, sha256: hash })),
  };
  return inTransaction(connection.pool, async (tx) => {
    const issue = await addIssue(tx, projectId, written);
    await announceIssue(tx, queue, projectId, issue);
    return issue;
  });
}
