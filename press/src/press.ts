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
  threadFunction: keyof typeof Thread;
  /** Begins the sentence about a task that reached a limit. */
  label(task: TaskOf<Name>): string;
  /** Problems are outcomes of it; else they are thrown. */
  hasOutcome: boolean;
}

const sheetLabel = ({ sheet }: Pick<SheetTask, 'sheet'>): string => `Sheet ${nameOf(sheet)}`;
const fileLabel = ({ file }: { file: { name: string } }): string => `Reading ${file.name}`;
const proofLabel = (): string => 'Reading a file again';

export const TASKS: { readonly [Name in TaskName]: TaskKind<Name> } = {
  makeSheet: { threadFunction: 'makeSheet', label: sheetLabel, hasOutcome: true },
  makePage: { threadFunction: 'makePage', label: sheetLabel, hasOutcome: true },
  inspect: { threadFunction: 'inspectDrawing', label: ({ name }) => `Reading ${name}`, hasOutcome: true },
  assemble: { threadFunction: 'assembleToFile', label: ({ file }) => `Assembling ${file.path}`, hasOutcome: false },
  proof: { threadFunction: 'proofOf', label: proofLabel, hasOutcome: false },
  verifyFormat: { threadFunction: 'verifyFormat', label: proofLabel, hasOutcome: false },
  frames: { threadFunction: 'framesOf', label: fileLabel, hasOutcome: false },
  picture: { threadFunction: 'pictureOf', label: fileLabel, hasOutcome: false },
  changes: { threadFunction: 'changesOf', label: ({ after }) => `Comparing ${after.name}`, hasOutcome: true },
  unlock: { threadFunction: 'unlockPdf', label: fileLabel, hasOutcome: true },
  mergeComments: { threadFunction: 'mergeComments', label: fileLabel, hasOutcome: true },
  typefaces: { threadFunction: 'takeInTypefaces', label: () => 'Reading a typeface', hasOutcome: true },
  view: { threadFunction: 'viewOf', label: fileLabel, hasOutcome: true },
  entity: { threadFunction: 'entityOf', label: fileLabel, hasOutcome: true },
};

/** The label of a task, for the beginning of a sentence. */
export function labelOf(name: TaskName, task: unknown): string {
  return TASKS[name].label(task as never);
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
