import pLimit from 'p-limit';
import { Piscina } from 'piscina';
import { nameOf, ProblemError, type EntityFacts, type Outcome, type Problem, type Proof } from '@folvex/core';
import type { ChangesTask, FoundChanges } from './drawings/changes';
import type { FrameOnLayer, FrameTask } from './drawings/frames';
import type { InspectedDrawing } from './drawings/inspect';
import type { DrawingFile } from './drawings/load-drawing';
import type { MergeCommentsTask } from './drawings/merge-comments';
import type { UnlockTask } from './drawings/unlock';
import type { DrawingView, ViewTask } from './drawings/view';
import type { WrittenFile } from './files/whole-file';
import type { VerifyFormatTask } from './formats';
import { limitProblem, STANDARD_LIMITS, type PressLimits } from './limits';
import type { AssembledFile, AssemblyTask } from './pdf/assemble-to-file';
import type { ProofTask } from './pdf/proof';
import type { BrowserPicture, PictureTask } from './drawings/browser-picture';
import type { MadePage } from './sheet/make-page';
import type { MadeSheet, MakeSheetTask } from './make-sheet';
import type { SheetTask } from './sheet/sheet-task';
import type { TakenTypeface, TypefacesTask } from './typefaces/take-in';

/** Worker threads that read drawings and make sheets. */
export interface Press {
  makeSheet(task: MakeSheetTask): Promise<Outcome<MadeSheet>>;
  makePage(task: SheetTask): Promise<Outcome<MadePage>>;
  inspect(file: Pick<DrawingFile, 'name' | 'path' | 'hash'>): Promise<Outcome<InspectedDrawing>>;
  assemble(task: AssemblyTask): Promise<AssembledFile>;
  proof(task: ProofTask): Promise<Proof>;
  verifyFormat(task: VerifyFormatTask): Promise<Proof>;
  frames(task: FrameTask): Promise<{ layer: string; frames: FrameOnLayer[] }[]>;
  /** A picture of a drawing as browsers show it; undefined where there is no such picture. */
  picture(task: PictureTask): Promise<BrowserPicture | undefined>;
  changes(task: ChangesTask): Promise<Outcome<FoundChanges>>;
  unlock(task: UnlockTask): Promise<Outcome<WrittenFile>>;
  /** Null where the file draws no comments. */
  mergeComments(task: MergeCommentsTask): Promise<Outcome<WrittenFile | null>>;
  typefaces(task: TypefacesTask): Promise<Outcome<TakenTypeface[]>>;
  view(task: ViewTask): Promise<Outcome<DrawingView>>;
  entity(task: ViewTask & { index: number }): Promise<Outcome<EntityFacts | null>>;
  close(): Promise<void>;
}

/** How many tasks may wait: far more than the sheets of a project. */
const MOST_WAITING = 20_000;

/**
 * Starts a pool of at most `threads` threads, each running the built `thread.ts` at `threadFile`. A task that takes more
 * memory or time than it may ends with its thread, and with a problem; another thread takes its place.
 */
export function createPress(threadFile: string, threads: number, limits: PressLimits = STANDARD_LIMITS): Press {
  const most = Math.max(1, threads);
  const pool = new Piscina({
    filename: threadFile,
    minThreads: 1,
    maxThreads: most,
    idleTimeout: 60_000,
    // Requests, and the browser where it is on the same machine, come first.
    niceIncrement: 5,
    resourceLimits: { maxOldGenerationSizeMb: limits.memoryMb },
  });
  // A task's time counts from when a thread takes it.
  const turns = pLimit(most);
  /** Runs a task; `what` begins the sentence about one that reached a limit, which is thrown. */
  const run = async <T>(name: string, task: unknown, what: string): Promise<T> => {
    if (turns.pendingCount >= MOST_WAITING) throw new ProblemError(TOO_BUSY);
    return turns(async () => {
      const deadline = new AbortController();
      const timer = setTimeout(() => deadline.abort(), limits.milliseconds);
      try {
        return (await pool.run(task, { name, signal: deadline.signal })) as T;
      } catch (error) {
        const problem = limitProblem(error, what, limits);
        throw problem ? new ProblemError(problem) : error;
      } finally {
        clearTimeout(timer);
      }
    });
  };
  /** The same of a task whose failures are outcomes. */
  const outcome = <T>(name: string, task: unknown, what: string): Promise<Outcome<T>> =>
    run<Outcome<T>>(name, task, what).catch((error: unknown) => {
      if (error instanceof ProblemError) return { ok: false, problem: error.problem };
      throw error;
    });
  const sheetOf = ({ sheet }: Pick<SheetTask, 'sheet'>): string => `Sheet ${nameOf(sheet)}`;
  const drawing = 'Reading a drawing';
  return {
    makeSheet: (task) => outcome('makeSheet', task, sheetOf(task)),
    makePage: (task) => outcome('makePage', task, sheetOf(task)),
    inspect: (file) => outcome('inspectDrawing', file, `Reading ${file.name}`),
    assemble: (task) => run('assembleToFile', task, `Assembling ${task.file.path}`),
    proof: (task) => run('proofOf', task, 'Reading a file again'),
    verifyFormat: (task) => run('verifyFormat', task, 'Reading a file again'),
    frames: (task) => run('framesOf', task, drawing),
    picture: (task) => run('pictureOf', task, drawing),
    changes: (task) => outcome('changesOf', task, drawing),
    unlock: (task) => outcome('unlockPdf', task, drawing),
    mergeComments: (task) => outcome('mergeComments', task, drawing),
    typefaces: (task) => outcome('takeInTypefaces', task, 'Reading a typeface'),
    view: (task) => outcome('viewOf', task, drawing),
    entity: (task) => outcome('entityOf', task, drawing),
    close: () => {
      // A thread that was stopped just now would be replaced after the pool is gone.
      (pool.options as { minThreads: number }).minThreads = 0;
      return pool.destroy();
    },
  };
}

const TOO_BUSY: Problem = {
  code: 'press.busy',
  sentence: `More than ${MOST_WAITING} tasks are waiting for a thread already; try again in a few minutes.`,
  place: {},
};
