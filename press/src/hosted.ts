import { fork, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { LRUCache } from 'lru-cache';
import pLimit from 'p-limit';
import { ProblemError, type Problem } from '@folvex/core';
import { sha256 } from './files/whole-file';
import { MEMORY_EXIT, type FromHost, type ToHost } from './host-messages';
import { memoryProblem, STANDARD_LIMITS, type PressLimits } from './limits';
import { labelOf, pressOf, type DoTask, type Press, type TaskName } from './press';

/** The built files of the process that does tasks, and of its threads. */
export interface HostFiles {
  host: string;
  thread: string;
}

export interface HostedPressOptions {
  limits?: PressLimits;
  /** Called when a process ended in the middle of tasks, with why and their labels. */
  onCrash?(reason: string, tasks: string[]): void;
}

/** Tasks that crashed their process are remembered, so that they are not tried again and again. */
const MAX_REMEMBERED = 1000;
/** A process that does not end by itself is killed after this time, ms. */
const STOP_TIMEOUT_MS = 2000;

/**
 * A press in a process of its own, which may crash: native libraries read files of strangers. The tasks that it was doing
 * are then done again, one by one, in processes of their own; one that crashes that as well ends with a problem, and is
 * not tried again.
 */
export function createHostedPress(
  files: HostFiles,
  threads: number,
  { limits = STANDARD_LIMITS, onCrash }: HostedPressOptions = {},
): Press {
  const start = (count: number): Host => new Host(files, count, limits, onCrash);
  const shared = start(Math.max(1, threads));
  const oneByOne = pLimit(1);
  const crashed = new LRUCache<string, Problem>({ max: MAX_REMEMBERED });
  const doAlone = async (name: TaskName, task: unknown, signal?: AbortSignal): Promise<unknown> => {
    const own = start(1);
    try {
      return await own.doTask(name, task, signal);
    } catch (error) {
      if (!(error instanceof HostCrashed)) throw error;
      const problem = crashProblem(error, labelOf(name, task), limits);
      crashed.set(keyOf(name, task), problem);
      throw new ProblemError(problem);
    } finally {
      await own.close();
    }
  };
  const doTask: DoTask = async (name, task, signal) => {
    const known = crashed.size > 0 ? crashed.get(keyOf(name, task)) : undefined;
    if (known) throw new ProblemError(known);
    try {
      return await shared.doTask(name, task, signal);
    } catch (error) {
      if (!(error instanceof HostCrashed) || shared.isClosed) throw error;
      return oneByOne(() => doAlone(name, task, signal));
    }
  };
  return pressOf(doTask, () => shared.close());
}

function keyOf(name: TaskName, task: unknown): string {
  return sha256(JSON.stringify([name, task]));
}

function crashProblem({ code }: HostCrashed, label: string, limits: PressLimits): Problem {
  if (code === MEMORY_EXIT) return memoryProblem(label, limits);
  const sentence = `${label} crashed the process that worked on it, twice, and is not tried again; save the drawing again with the program that made it, and add that file.`;
  return { code: 'press.crashed', sentence, place: {} };
}

/** The process that did a task ended before it was done. */
class HostCrashed extends Error {
  constructor(
    readonly code: number | null,
    reason: string,
  ) {
    super(`the process that did the task ended (${reason})`);
  }
}

interface Waiting {
  label: string;
  resolve(value: unknown): void;
  reject(error: Error): void;
}

/** One process that does tasks; it is started when there is something to do, and again when it crashed. */
class Host {
  isClosed = false;
  private child: ChildProcess | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private next = 0;

  constructor(
    private readonly files: HostFiles,
    private readonly threads: number,
    private readonly limits: PressLimits,
    private readonly onCrash: HostedPressOptions['onCrash'],
  ) {}

  async doTask(name: TaskName, task: unknown, signal?: AbortSignal): Promise<unknown> {
    signal?.throwIfAborted();
    this.child ??= this.start();
    const { child } = this;
    const id = this.next++;
    const send = (message: ToHost): void => {
      // A task that cannot be sent any more is rejected once the process has ended.
      if (child.connected) child.send(message, () => undefined);
    };
    const abort = (): void => send({ id, abort: true });
    signal?.addEventListener('abort', abort);
    try {
      return await new Promise((resolve, reject) => {
        this.waiting.set(id, { label: labelOf(name, task), resolve, reject });
        send({ id, name, task });
      });
    } catch (error) {
      signal?.throwIfAborted();
      throw error;
    } finally {
      this.waiting.delete(id);
      signal?.removeEventListener('abort', abort);
    }
  }

  async close(): Promise<void> {
    this.isClosed = true;
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const timer = setTimeout(() => child.kill('SIGKILL'), STOP_TIMEOUT_MS);
    const ended = once(child, 'exit');
    if (child.connected) child.disconnect();
    await ended;
    clearTimeout(timer);
  }

  private start(): ChildProcess {
    const { memoryMb, milliseconds } = this.limits;
    const child = fork(
      this.files.host,
      [this.files.thread, ...[this.threads, memoryMb, milliseconds].map(String)],
      // Tasks and answers hold bytes.
      { serialization: 'advanced', execArgv: ['--enable-source-maps'] },
    );
    child.on('message', (message: FromHost) => {
      const asked = this.waiting.get(message.id);
      if ('value' in message) asked?.resolve(message.value);
      else if ('problem' in message) asked?.reject(new ProblemError(message.problem));
      else asked?.reject(Object.assign(new Error(message.error.message), message.error));
    });
    child.on('exit', (code, signal) => this.end(child, code, String(signal ?? code)));
    // It could not be started, and will not exit; or it could not be spoken to, and is of no use.
    child.on('error', (error) => {
      child.kill('SIGKILL');
      this.end(child, null, error.message);
    });
    return child;
  }

  /** Rejects what a process was doing that has ended; the next task starts another one. */
  private end(child: ChildProcess, code: number | null, reason: string): void {
    if (this.child !== child) return;
    this.child = undefined;
    const tasks = [...this.waiting.values()];
    this.waiting.clear();
    const labels = tasks.map(({ label }) => label);
    if (labels.length > 0 && !this.isClosed) this.onCrash?.(reason, labels);
    for (const { reject } of tasks) reject(new HostCrashed(code, reason));
  }
}
