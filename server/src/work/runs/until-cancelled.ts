import type { Notifications } from '../../data/notifications';

class RunCancelled extends Error {}

/**
 * Does work on a run with a signal that is aborted once the run is cancelled; undefined where it was. A notification that
 * was lost only means that the work goes on to its end.
 */
export async function untilCancelled<T>(
  notifications: Notifications,
  runId: string,
  work: (signal: AbortSignal) => Promise<T>,
): Promise<T | undefined> {
  const cancelled = new AbortController();
  const unlisten = notifications.on('run_cancelled', (id) => {
    if (id === runId) cancelled.abort(new RunCancelled());
  });
  try {
    return await work(cancelled.signal);
  } catch (error) {
    if (error instanceof RunCancelled) return undefined;
    throw error;
  } finally {
    unlisten();
  }
}
