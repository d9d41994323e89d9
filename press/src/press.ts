import { nameOf, ProblemError, type EntityFacts, type Outcome, type Proof } from '@folvex/core';
import type { BrowserPicture, PictureTask } from './drawings/browser-picture';
import type { ChangesTask, FoundChanges } from './drawings/changes';
import type { FrameOnLayer, FrameTask } from './drawings/frames';
import type { InspectedDrawing } from './drawings/inspect';
import type { DrawingFile } from './drawings/load-drawing';
import type { MergeCommentsTask } from './drawings/merge-comments';
import type { UnlockTask } from './drawings/unlock';
import type { DrawingView, ViewTask } from './drawings/view';
import type { WrittenFile } from './files/whole-file';
import type { VerifyFormatTask } from './formats';
import type { MadeSheet, MakeSheetTask } from './make-sheet';
import type { AssembledFile, AssemblyTask } from './pdf/assemble-to-file';
import type { ProofTask } from './pdf/proof';
import type { MadePage } from './sheet/make-page';
import type { SheetTask } from './sheet/sheet-task';
import type * as Thread from './thread';
import type { TakenTypeface, TypefacesTask } from './typefaces/take-in';

/** The tasks of a press: reading drawings, making sheets. */
export interface PressTasks {
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
}

export type TaskName = keyof PressTasks;
type TaskOf<Name extends TaskName> = Parameters<PressTasks[Name]>[0];

/**
 * Does its tasks away from the thread that asks. One that reaches a limit ends with a problem; a `signal` ends its task at
 * once, in the middle of its work, and rejects with the signal's reason.
 */
export type Press = {
  [Name in TaskName]: (task: TaskOf<Name>, signal?: AbortSignal) => ReturnType<PressTasks[Name]>;
} & { close(): Promise<void> };

interface TaskKind<Name extends TaskName> {
  /** The function of a thread that does it. */
  does: keyof typeof Thread;
  /** Begins the sentence about a task that reached a limit. */
  called(task: TaskOf<Name>): string;
  /** Problems are outcomes of it; else they are thrown. */
  hasOutcome: boolean;
}

const sheetCalled = ({ sheet }: Pick<SheetTask, 'sheet'>): string => `Sheet ${nameOf(sheet)}`;
const drawingCalled = (): string => 'Reading a drawing';
const againCalled = (): string => 'Reading a file again';

export const TASKS: { readonly [Name in TaskName]: TaskKind<Name> } = {
  makeSheet: { does: 'makeSheet', called: sheetCalled, hasOutcome: true },
  makePage: { does: 'makePage', called: sheetCalled, hasOutcome: true },
  inspect: { does: 'inspectDrawing', called: ({ name }) => `Reading ${name}`, hasOutcome: true },
  assemble: { does: 'assembleToFile', called: ({ file }) => `Assembling ${file.path}`, hasOutcome: false },
  proof: { does: 'proofOf', called: againCalled, hasOutcome: false },
  verifyFormat: { does: 'verifyFormat', called: againCalled, hasOutcome: false },
  frames: { does: 'framesOf', called: drawingCalled, hasOutcome: false },
  picture: { does: 'pictureOf', called: drawingCalled, hasOutcome: false },
  changes: { does: 'changesOf', called: drawingCalled, hasOutcome: true },
  unlock: { does: 'unlockPdf', called: drawingCalled, hasOutcome: true },
  mergeComments: { does: 'mergeComments', called: drawingCalled, hasOutcome: true },
  typefaces: { does: 'takeInTypefaces', called: () => 'Reading a typeface', hasOutcome: true },
  view: { does: 'viewOf', called: drawingCalled, hasOutcome: true },
  entity: { does: 'entityOf', called: drawingCalled, hasOutcome: true },
};

/** What a task is called at the beginning of a sentence. */
export function calledTask(name: TaskName, task: unknown): string {
  return TASKS[name].called(task as never);
}

/** Does a task. Throws a `ProblemError` where it reached a limit. */
export type DoTask = (name: TaskName, task: unknown, signal?: AbortSignal) => Promise<unknown>;

/** A press whose tasks are done by a function. */
export function pressOf(doTask: DoTask, close: () => Promise<void>): Press {
  const method = (name: TaskName) => async (task: unknown, signal?: AbortSignal) => {
    try {
      return await doTask(name, task, signal);
    } catch (error) {
      if (!TASKS[name].hasOutcome || !(error instanceof ProblemError)) throw error;
      return { ok: false, problem: error.problem };
    }
  };
  const methods = (Object.keys(TASKS) as TaskName[]).map((name) => [name, method(name)] as const);
  return { ...Object.fromEntries(methods), close } as unknown as Press;
}
