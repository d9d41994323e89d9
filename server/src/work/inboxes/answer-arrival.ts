import type { ArrivalAnswer, ArrivalAnswered } from '@folvex/contract';
import { ProblemError } from '@folvex/core';
import { arrivalById, arrivalInfo, changeArrival, fileNameOf, type ArrivalRow } from '../../data/arrivals';
import type { Author } from '../../data/audit';
import { notFound } from '../../errors';
import { takeOffer, type ReceiveDeps } from '../drawings/receive';

/** Does with a file that waits in an inbox what somebody decided. Rejects where it does not wait any more. */
export async function answerArrival(
  deps: ReceiveDeps,
  { projectId, id, by }: { projectId: string; id: string; by: Author },
  { as, password }: ArrivalAnswer,
): Promise<ArrivalAnswered> {
  const row = await arrivalById(deps.db, projectId, id);
  if (!row) throw notFound('The file');
  if (row.state !== 'waiting' || row.hash === null) throw decided(row);
  const decidedBy = by?.name ?? null;
  const settle = async (set: Partial<ArrivalRow>, drawing: ArrivalAnswered['drawing']): Promise<ArrivalAnswered> => {
    const changed = await changeArrival(deps.db, row, set);
    if (!changed) throw decided(row);
    return { arrival: arrivalInfo(changed), drawing };
  };
  // What is not wanted is not kept.
  if (as === 'decline') return settle({ state: 'declined', hash: null, decidedBy }, null);
  const offered = { name: fileNameOf(row.path), hash: row.hash, bytes: row.bytes };
  const received = await takeOffer(deps, projectId, {
    ...{ offered, as },
    ...(row.drawingId !== null && { drawing: row.drawingId }),
    ...(password !== undefined && { password }),
  });
  if (received.outcome === 'added' || received.outcome === 'known') {
    const { drawing, outcome } = received;
    const state = outcome === 'added' ? ('taken' as const) : outcome;
    const of = { drawingId: drawing.id, version: drawing.version, hash: drawing.hash, problem: null };
    return settle({ ...of, state, decidedBy }, drawing);
  }
  // It still waits: for its password, or as what it is now that it was opened.
  const drawing = 'drawing' in received ? received.drawing : null;
  const { hash, bytes } = received.offered;
  const problem = received.outcome === 'locked' ? received.problem : null;
  return settle({ hash, bytes, drawingId: drawing?.id ?? null, problem }, drawing);
}

function decided({ path }: ArrivalRow): ProblemError {
  const sentence = `Somebody has decided about ${path} already; the list shows what they decided.`;
  return new ProblemError({ code: 'inbox.decided', sentence, place: { file: path } });
}
