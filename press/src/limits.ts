import type { Problem } from '@folvex/core';

/** What a thread may use for one task. */
export interface PressLimits {
  /** Memory of its objects, MB. */
  memoryMb: number;
  /** Time, ms. */
  milliseconds: number;
}

/** The largest drawing of the bench, 1.3 million entities, takes 1.1 GB and 15 s. */
export const STANDARD_LIMITS: PressLimits = { memoryMb: 4096, milliseconds: 15 * 60_000 };

const MS_PER_MINUTE = 60_000;

/** The limits that an environment asks for (FOLVEX_THREAD_MB, FOLVEX_THREAD_MINUTES), the standard ones where it is silent. */
export function limitsFrom({ FOLVEX_THREAD_MB, FOLVEX_THREAD_MINUTES }: NodeJS.ProcessEnv): PressLimits {
  const numberOf = (stated: string | undefined): number | undefined =>
    Number(stated) > 0 ? Number(stated) : undefined;
  return {
    memoryMb: numberOf(FOLVEX_THREAD_MB) ?? STANDARD_LIMITS.memoryMb,
    milliseconds: (numberOf(FOLVEX_THREAD_MINUTES) ?? STANDARD_LIMITS.milliseconds / MS_PER_MINUTE) * MS_PER_MINUTE,
  };
}

/** Says that a task took more memory than it may. `what` begins the sentence. */
export function memoryProblem(what: string, { memoryMb }: PressLimits): Problem {
  const sentence = `${what} took more than the ${memoryMb} MB of memory that a thread has and was stopped; simplify the largest drawing, or allow more in FOLVEX_THREAD_MB.`;
  return { code: 'press.memory', sentence, place: {} };
}

/** Says that a task reached a limit and was ended; undefined for any other error. `what` begins the sentence. */
export function limitProblem(error: unknown, what: string, limits: PressLimits): Problem | undefined {
  const { code, name } = (error ?? {}) as { code?: unknown; name?: unknown };
  if (code === 'ERR_WORKER_OUT_OF_MEMORY') {
    return memoryProblem(what, limits);
  }
  if (name === 'AbortError') {
    const { milliseconds } = limits;
    const minutes = Math.round(milliseconds / MS_PER_MINUTE);
    const long = minutes > 0 ? `${minutes} minutes` : `${milliseconds} ms`;
    const sentence = `${what} took longer than ${long} and was stopped; simplify the largest drawing, or allow more in FOLVEX_THREAD_MINUTES.`;
    return { code: 'press.time', sentence, place: {} };
  }
  return undefined;
}
