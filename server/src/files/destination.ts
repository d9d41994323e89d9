import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { copyFile, mkdir, open, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Delivered } from '@folvex/contract';
import { numberedPath, type Meeting } from '@folvex/core';
import { appear } from './appear';

/** Numbers that are tried before giving up. */
const MOST_NUMBERS = 1000;

/** Of paths below a folder, those where something is already. */
export function thereAlready(folder: string, paths: readonly string[]): string[] {
  return paths.filter((path) => existsSync(placeOf(folder, path)));
}

/**
 * Copies a file to its destination, where it appears whole or not at all. What is there with the same content stays; what
 * is there with another one is replaced, or stays beside the new one, which is numbered, or nothing is copied. Done
 * twice, the second time changes nothing.
 */
export async function deliver(
  from: string,
  hash: string,
  folder: string,
  path: string,
  there: Meeting,
): Promise<Delivered> {
  const unfinished = join(folder, `.folvex-${randomUUID()}.part`);
  try {
    if ((await hashOf(placeOf(folder, path))) === hash) return { path, how: 'there already' };
    const taken = existsSync(placeOf(folder, path));
    if (taken && there === 'stop') return { problem: stopped(path) };
    await mkdir(dirname(placeOf(folder, path)), { recursive: true });
    await copyFile(from, unfinished);
    await synced(unfinished);
    if (taken && there === 'both') return await besideIt(unfinished, hash, folder, path);
    // Without a wish to replace, a name that was free a moment ago must still be.
    if (there === 'replace') await rename(unfinished, placeOf(folder, path));
    else await appear(unfinished, placeOf(folder, path));
    return { path, how: taken ? 'replaced' : 'new' };
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code ?? 'error';
    const sentence = `${path} could not be copied to ${folder} (${code}); see that the folder may be written to and has room, and publish again.`;
    return { problem: { code: 'destination.copy', sentence, place: { file: path } } };
  } finally {
    await rm(unfinished, { force: true }).catch(() => undefined);
  }
}

/** Puts a file beside the one of its name, under the first number that is free. */
async function besideIt(unfinished: string, hash: string, folder: string, path: string): Promise<Delivered> {
  for (let number = 2; number < MOST_NUMBERS; number++) {
    const numbered = numberedPath(path, number);
    const known = await hashOf(placeOf(folder, numbered));
    if (known === hash) return { path: numbered, how: 'there already' };
    if (known !== undefined) continue;
    await appear(unfinished, placeOf(folder, numbered));
    return { path: numbered, how: 'numbered' };
  }
  return { problem: stopped(path) };
}

function stopped(path: string): Extract<Delivered, { problem: unknown }>['problem'] {
  const sentence = `${path} is at the destination already and differs; have both kept or have it replaced, and publish again.`;
  return { code: 'destination.there', sentence, place: { file: path } };
}

function placeOf(folder: string, path: string): string {
  return join(folder, ...path.split('/'));
}

/** Hash of a file that may not be there. */
async function hashOf(path: string): Promise<string | undefined> {
  if (!existsSync(path)) return undefined;
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

async function synced(path: string): Promise<void> {
  const file = await open(path, 'r+');
  await file.sync();
  await file.close();
}
