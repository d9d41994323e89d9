import { markedPath, type ConflictPolicy, type Delivered, type Problem } from '@folvex/core';
import type { DeliveredFile, DestinationPort } from './port';
import { dateOf } from '../today';
import { refuseMismatch } from './reported-hash';
import { StepFailed } from './transfer-login';

/** Give up after this many numbers are taken. */
const MAX_NUMBERS = 1000;
/** Give up when others have taken the name this often while the older file was being renamed. */
const MAX_RACES = 10;

/**
 * Delivers a file. One with the same content stays as it is; one with other content is replaced, or renamed with its date,
 * or keeps its name and the new one is numbered, or nothing is copied. Done twice, even side by side, the second time
 * changes nothing.
 */
export async function deliver(
  destination: DestinationPort,
  file: DeliveredFile,
  onConflict: ConflictPolicy,
): Promise<Delivered> {
  const { path } = file;
  try {
    const delivered = await place(destination, file, onConflict);
    if ('problem' in delivered) return delivered;
    const found = await destination.find(delivered.path);
    const hash = await destination.reportedHash(delivered.path);
    await refuseMismatch(hash, file);
    return { ...delivered, ...(found && { bytes: found.bytes }), ...(hash && { hash }) };
  } catch (error) {
    if (error instanceof StepFailed) {
      const code = error.step === 'connection' ? 'destination.copy' : 'destination.refused';
      return { problem: { code, sentence: error.sentence, place: { file: path } } };
    }
    const code = (error as NodeJS.ErrnoException).code ?? (error as Error).message;
    const sentence = `${path} could not be delivered (${code}); make sure that the destination can be written to and has room, and send it again.`;
    return { problem: { code: 'destination.copy', sentence, place: { file: path } } };
  }
}

async function place(
  destination: DestinationPort,
  file: DeliveredFile,
  onConflict: ConflictPolicy,
): Promise<Delivered> {
  const { path, hash } = file;
  if ((await destination.hashOf(path)) === undefined && (await destination.put(file, { replace: false }))) {
    return { path, how: 'new' };
  }
  // The name was taken, before or just now.
  if ((await destination.hashOf(path)) === hash) return { path, how: 'there already' };
  if (onConflict === 'stop') return { problem: conflict(path) };
  if (onConflict === 'both') return await deliverNumbered(destination, file);
  if (onConflict === 'rename') return await deliverOverRenamed(destination, file);
  await destination.put(file, { replace: true });
  return { path, how: 'replaced' };
}

/** Renames the file that has the name, then takes the name. */
async function deliverOverRenamed(destination: DestinationPort, file: DeliveredFile): Promise<Delivered> {
  const { path, hash } = file;
  let older: string | undefined;
  for (let tries = 0; tries < MAX_RACES; tries++) {
    const renamed = await renameOlder(destination, file);
    older ??= renamed;
    if (await destination.put(file, { replace: false })) return { path, how: 'new', ...(older && { older }) };
    // Somebody took the name in between.
    if ((await destination.hashOf(path)) === hash) return { path, how: 'there already' };
  }
  return { problem: conflict(path) };
}

/** Renames the older file with its date; returns its new path. Undefined where it is gone, or the same as the new one. */
async function renameOlder(destination: DestinationPort, { path, hash }: DeliveredFile): Promise<string | undefined> {
  const found = await destination.find(path);
  if (!found) return undefined;
  const dated = markedPath(path, dateOf(new Date(found.writtenAt)));
  for (let number = 1; number < MAX_NUMBERS; number++) {
    const older = number === 1 ? dated : markedPath(dated, number);
    if (await destination.rename(path, older)) return older;
    // The name is taken: perhaps somebody is delivering the same file, and has just renamed the older one.
    if (number === 1 && (await destination.hashOf(path)) === hash) return undefined;
  }
  return undefined;
}

/** At most so many numbers are looked at beforehand. */
const MAX_LOOKED_AT = 20;

/**
 * The names that new files would get where their own are taken and both are kept, by path; none for a file whose first
 * numbers are all taken.
 */
export async function numberedNames(
  destination: Pick<DestinationPort, 'list'>,
  taken: readonly string[],
): Promise<Record<string, string>> {
  const candidates = (path: string): string[] =>
    Array.from({ length: MAX_LOOKED_AT }, (_, i) => markedPath(path, i + 2));
  const there = new Set(await destination.list(taken.flatMap(candidates)));
  const free = taken.map((path) => [path, candidates(path).find((name) => !there.has(name))] as const);
  return Object.fromEntries(free.flatMap(([path, name]) => (name === undefined ? [] : [[path, name]])));
}

/** Places a file next to the one that has its name, under the first number that is free. */
async function deliverNumbered(destination: DestinationPort, file: DeliveredFile): Promise<Delivered> {
  for (let number = 2; number < MAX_NUMBERS; number++) {
    const path = markedPath(file.path, number);
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
  const sentence = `${path} is at the destination already, with other content; choose to keep both, to rename the older one or to replace it, and send it again.`;
  return { code: 'destination.conflict', sentence, place: { file: path } };
}
