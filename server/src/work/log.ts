import { DrizzleQueryError } from 'drizzle-orm';
import { pino, stdSerializers, type DestinationStream, type Logger } from 'pino';

/** Longer statements are cut in the log, characters. */
const MAX_STATEMENT = 500;

/** The log of a process. `destination`: where its lines go; to standard output where left out. */
export function createLog(level: string, destination?: DestinationStream): Logger {
  const options = { level, serializers: { err: errorForLog } };
  return destination ? pino(options, destination) : pino(options);
}

/** What the log holds of an error: never the values of a statement that failed, which are people's drawings and names. */
export function errorForLog(error: unknown): unknown {
  if (!(error instanceof Error)) return error;
  const { type, message, stack } = stdSerializers.err(withoutValues(error));
  return { type, message, stack, code: (error as NodeJS.ErrnoException).code };
}

function withoutValues(error: Error): Error {
  if (!(error instanceof DrizzleQueryError)) return error;
  const { query, message, stack = '', cause } = error;
  const plain = new Error(`Failed query: ${query.slice(0, MAX_STATEMENT)}`, { cause });
  plain.stack = `${plain.message}${stack.slice(stack.indexOf(message) + message.length)}`;
  return plain;
}
