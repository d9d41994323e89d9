import type { Problem } from '@folvex/core';
import type { TaskName } from './press';

/** What a process that is to do tasks is told: a task, or that one is to end. */
export type ToHost = { id: number; name: TaskName; task: unknown } | { id: number; abort: true };

/** What it answers to a task. */
export type FromHost =
  | { id: number; value: unknown }
  | { id: number; problem: Problem }
  | { id: number; error: { name: string; message: string; stack?: string | undefined } };

/** The code that a process ends with which has taken more memory than it may. */
export const MEMORY_EXIT = 86;
