import { runFileAt, runSheetsOf, saveProof } from '../../data/runs';
import type { RunPosition } from '../../model/queue-task';
import type { LeasedJob } from '../queue/worker-queue';
import { isHopeless, MAX_WORKER_CRASHES } from './make-sheets';
import { frozenRun, type RunDeps } from './run-deps';
import { emptyProof, formatOptions, ProblemError, type Proof } from '@folvex/core';

/** Has a file of a finished run read again, once. The run can be used meanwhile. */
export async function proveFile(deps: RunDeps, job: LeasedJob, { runId, position }: RunPosition): Promise<void> {
  const proof = isHopeless(job) ? unread(gaveUp(job)) : await proofOf(deps, runId, position).catch(unreadBecause);
  await deps.held.finish([job], async (tx) => {
    if (proof) await saveProof(tx.db, runId, position, proof);
  });
}

function unread(reason: string): Proof {
  return { ...emptyProof(), unread: reason };
}

function gaveUp({ crashes, failures }: LeasedJob): string {
  if (crashes >= MAX_WORKER_CRASHES) return `Reading it again crashed the worker ${crashes} times and was given up.`;
  return `Reading it again failed ${failures} times for an unknown reason and was given up; the worker's log says why.`;
}

/** What a thread that reached a limit says. */
function unreadBecause(error: unknown): Proof {
  if (!(error instanceof ProblemError)) throw error;
  return unread(error.problem.sentence);
}

async function proofOf({ db, store, press }: RunDeps, runId: string, position: number): Promise<Proof | undefined> {
  const [run, file] = [await frozenRun(db, runId), await runFileAt(db, runId, position)];
  if (!run || !file || file.proof) return undefined;
  const rows = await runSheetsOf(db, runId);
  const { recipe, lock, package: pack } = run.input;
  const path = await store.localFile(file.hash);
  if (file.format) {
    const row = rows.find(({ sheetId }) => sheetId === file.sheets[0]);
    const options = formatOptions(pack);
    const made = row?.extraFormats?.find(({ hash }) => hash === file.hash);
    if (made) return press.verifyFormat({ path, format: made.format, width: made.width, height: made.height, options });
    const picture = row?.extraFormats?.flatMap((one) => one.pictures ?? []).find(({ hash }) => hash === file.hash);
    if (!picture) return undefined;
    const pixels = { width: picture.width, height: picture.height };
    return press.verifyFormat({ path, format: picture.format, ...pixels, pixels, options });
  }
  const parts = new Map(rows.map(({ sheetId, partHash }) => [sheetId, partHash]));
  const hashes = file.sheets.map((sheet) => parts.get(sheet));
  if (!hashes.every((hash) => typeof hash === 'string')) return undefined;
  const files = await Promise.all(hashes.map((hash) => store.localFile(hash)));
  return press.proof({ path, parts: files, recipe, lock });
}
