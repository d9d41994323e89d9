import type { ArrivalAnswer, ArrivalAnswered } from '@folvex/contract';
import { ProblemError } from '@folvex/core';
import { arrivalById, arrivalInfo, changeArrival, type ArrivalRow } from '../../data/arrivals';
import type { Author } from '../../data/audit';
import { notFound } from '../../errors';
import { takeOffer, type ReceiveDeps } from '../drawings/receive';

/** Carries out a decision on an arrival. Rejects with a `ProblemError` where it no longer waits for one. */
export async function answerArrival(
  deps: ReceiveDeps,
  { projectId, id, by }: { projectId: string; id: string; by: Author },
  { as, password }: ArrivalAnswer,
): Promise<ArrivalAnswered> {
  const row = await arrivalById(deps.db, projectId, id);
  if (!row) throw notFound('The file');
  const { offered, drawingId: drawing } = row;
  if (row.state !== 'waiting' || offered === null) throw decidedAlready(row);
  const settle = async (set: Partial<ArrivalRow>, now: ArrivalAnswered['drawing']): Promise<ArrivalAnswered> => {
    const changed = await changeArrival(deps.db, row, set);
    if (!changed) throw decidedAlready(row);
    return { arrival: arrivalInfo(changed), drawing: now };
  };
  const decided = { offered: null, problem: null, decidedBy: by?.name ?? null };
  if (as === 'decline') return settle({ ...decided, state: 'declined' }, null);
  const answer = { offered, as, ...(drawing !== null && { drawing }), ...(password !== undefined && { password }) };
  const received = await takeOffer(deps, projectId, answer);
  switch (received.outcome) {
    case 'added':
    case 'known': {
      const { id: drawingId, version } = received.drawing;
      const state = received.outcome === 'added' ? 'taken' : 'known';
      return settle({ ...decided, state, drawingId, version }, received.drawing);
    }
    case 'newer':
      // It has been unlocked, and turns out to be a newer version.
      return settle({ offered: received.offered, drawingId: received.drawing.id, problem: null }, received.drawing);
    case 'locked':
      return settle({ problem: received.problem }, null);
  }
}

function decidedAlready({ path }: ArrivalRow): ProblemError {
  const sentence = `Somebody has already decided on ${path}; the list shows what became of it.`;
  return new ProblemError({ code: 'inbox.decided', sentence, place: { file: path } });
}
