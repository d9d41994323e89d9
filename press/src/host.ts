import { ProblemError } from '@folvex/core';
import { MEMORY_EXIT, type FromHost, type ToHost } from './host-messages';
import { createPress } from './pool';

/** Memory of the process is looked at this often, ms. What it takes apart from its tasks, MB. */
const [WATCH_MS, OWN_MB] = [250, 512];

/**
 * A process that does the tasks of another one in threads of its own. Arguments: the file of the threads, how many, and
 * the limits of each.
 */
function main([threadFile = '', ...numbers]: readonly string[]): void {
  const [threads = 1, memoryMb = 0, milliseconds = 0] = numbers.map(Number);
  const press = createPress(threadFile, threads, { memoryMb, milliseconds });
  const active = new Map<number, AbortController>();
  const answer = (message: FromHost): void => void process.send?.(message);
  process.on('message', (message: ToHost) => {
    const { id } = message;
    if ('abort' in message) return active.get(id)?.abort();
    const ending = new AbortController();
    active.set(id, ending);
    press[message.name](message.task as never, ending.signal)
      .then(
        (value: unknown) => answer({ id, value }),
        (error: unknown) => answer({ id, ...failureOf(error) }),
      )
      .finally(() => active.delete(id));
  });
  // The limit of a thread counts its objects only: not what libraries take, nor plain bytes.
  setInterval(() => {
    if (process.memoryUsage.rss() > (threads * memoryMb + OWN_MB) * 1e6) process.exit(MEMORY_EXIT);
  }, WATCH_MS).unref();
  // Whoever asked is gone.
  process.on('disconnect', () => process.exit(0));
}

function failureOf(
  error: unknown,
): Pick<Extract<FromHost, { error: unknown }>, 'error'> | { problem: ProblemError['problem'] } {
  if (error instanceof ProblemError) return { problem: error.problem };
  const { name = 'Error', message = String(error), stack } = (error ?? {}) as Partial<Error>;
  return { error: { name, message, stack } };
}

main(process.argv.slice(2));
