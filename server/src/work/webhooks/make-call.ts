import { saveAttempt, webhookCallById } from '../../data/webhooks';
import { pauseAfter } from '../queue/pauses';
import type { LeasedJob } from '../queue/worker-queue';
import { isHopeless } from '../runs/make-sheets';
import type { RunDeps } from '../runs/run-deps';
import { postMessage, type Posted } from './post-message';

const CRASHED: Posted = { isReceived: false, isLast: true, answer: 'Sending it crashed the worker several times' };

/** Makes a call that waits; where the receiver does not take it, it is made again after growing pauses. */
export async function makeCall({ db, held, queue, sealer }: RunDeps, job: LeasedJob, callId: string): Promise<void> {
  const found = await webhookCallById(db, callId);
  if (found?.call.state !== 'waiting') return held.finish([job], async () => undefined);
  const { call, webhook } = found;
  const { isReceived, isLast, answer } = isHopeless(job) ? CRASHED : await postMessage(sealer, webhook, call);
  const seconds = isLast ? undefined : pauseAfter(call.attempts + 1);
  const ended = isReceived ? 'done' : 'failed';
  await held.finish([job], async (tx) => {
    await saveAttempt(tx.db, callId, { state: seconds === undefined ? ended : 'waiting', answer, seconds });
    if (seconds !== undefined) await queue.addCall(tx, callId, seconds);
  });
}
