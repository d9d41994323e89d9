import { unpackPage, type Page, type Problem } from '@folvex/core';
import type { Refusal } from '@folvex/contract';

/** Fetches a packed page; throws the server's problem where it refuses. */
export async function fetchPage(url: string): Promise<Page> {
  const response = await fetch(url, { cache: 'no-cache' });
  if (!response.ok) throw ((await response.json()) as Refusal).problem;
  return unpackPage(new Uint8Array(await response.arrayBuffer()));
}

/** What went wrong, in the server's words or our own. */
export function asProblem(error: unknown): Problem {
  if (typeof error === 'object' && error !== null && 'sentence' in error) return error as Problem;
  return { code: 'page.picture', sentence: 'The picture could not be fetched; try again in a moment.', place: {} };
}
