import { numberedPath, type ConflictPolicy, type Delivered, type Problem } from '@folvex/core';
import type { DeliveredFile, DestinationPort } from './port';
import { StepFailed } from './transfer-login';

/** Give up after this many numbers are taken. */
const MAX_NUMBERS = 1000;

/**
 * Delivers a file. One with the same content stays as it is; one with other content is replaced, or keeps its name and
 * the new one is numbered, or nothing is copied. Done twice, even side by side, the second time changes nothing.
 */
export async function deliver(
  destination: DestinationPort,
  file: DeliveredFile,
  onConflict: ConflictPolicy,
): Promise<Delivered> {
  const { path, hash } = file;
  try {
    if ((await destination.hashOf(path)) === undefined && (await destination.put(file, { replace: false }))) {
      return { path, how: 'new' };
    }
    // The name was taken, before or just now.
    if ((await destination.hashOf(path)) === hash) return { path, how: 'there already' };
    if (onConflict === 'stop') return { problem: conflict(path) };
    if (onConflict === 'both') return await deliverNumbered(destination, file);
    await destination.put(file, { replace: true });
    return { path, how: 'replaced' };
  } catch (error) {
    if (error instanceof StepFailed && error.step !== 'connection')
      return { problem: { code: 'destination.refused', sentence: error.sentence, place: { file: path } } };
    const code = (error as NodeJS.ErrnoException).code ?? (error as Error).message;
    const sentence = `${path} could not be delivered (${code}); make sure that the destination can be written to and has room, and publish again.`;
    return { problem: { code: 'destination.copy', sentence, place: { file: path } } };
  }
}

/** Places a file next to the one that has its name, under the first number that is free. */
async function deliverNumbered(destination: DestinationPort, file: DeliveredFile): Promise<Delivered> {
  for (let number = 2; number < MAX_NUMBERS; number++) {
    const path = numberedPath(file.path, number);
    if (
      (await destination.hashOf(path)) === undefined &&
      (await destination.put({ ...file, path }, { replace: false }))
    ) {
      return { path, how: 'numbered' };
    }
    if ((await destination.hashOf(path)) === file.hash) return { path, how: 'there already' };
  }
  return { problem: conflict(file.path) };
}

function conflict(path: string): Problem {
  const sentence = `${path} is at the destination already, with other content; choose to keep both or to replace it, and publish again.`;
  return { code: 'destination.conflict', sentence, place: { file: path } };
}
