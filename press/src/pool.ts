import { Piscina } from 'piscina';
import type { EntityFacts, Outcome, Proof } from '@folvex/core';
import type { ChangesTask, FoundChanges } from './drawings/changes';
import type { FrameOnLayer, FrameTask } from './drawings/frames';
import type { InspectedDrawing } from './drawings/inspect';
import type { DrawingFile } from './drawings/load-drawing';
import type { MergeCommentsTask } from './drawings/merge-comments';
import type { UnlockTask } from './drawings/unlock';
import type { DrawingView, ViewTask } from './drawings/view';
import type { WrittenFile } from './files/whole-file';
import type { VerifyFormatTask } from './formats';
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

/** Starts a pool of at most `threads` threads, each running the built `thread.ts` at `threadFile`. */
export function createPress(threadFile: string, threads: number): Press {
  const pool = new Piscina({
    filename: threadFile,
    minThreads: 1,
    maxThreads: Math.max(1, threads),
    idleTimeout: 60_000,
    // Requests, and the browser where it is on the same machine, come first.
    niceIncrement: 5,
  });
  return {
    makeSheet: (task) => pool.run(task, { name: 'makeSheet' }) as Promise<Outcome<MadeSheet>>,
    makePage: (task) => pool.run(task, { name: 'makePage' }) as Promise<Outcome<MadePage>>,
    inspect: (file) => pool.run(file, { name: 'inspectDrawing' }) as Promise<Outcome<InspectedDrawing>>,
    assemble: (task) => pool.run(task, { name: 'assembleToFile' }) as Promise<AssembledFile>,
    proof: (task) => pool.run(task, { name: 'proofOf' }) as Promise<Proof>,
    verifyFormat: (task) => pool.run(task, { name: 'verifyFormat' }) as Promise<Proof>,
    frames: (task) => pool.run(task, { name: 'framesOf' }) as Promise<{ layer: string; frames: FrameOnLayer[] }[]>,
    picture: (task) => pool.run(task, { name: 'pictureOf' }) as Promise<BrowserPicture | undefined>,
    changes: (task) => pool.run(task, { name: 'changesOf' }) as Promise<Outcome<FoundChanges>>,
    unlock: (task) => pool.run(task, { name: 'unlockPdf' }) as Promise<Outcome<WrittenFile>>,
    mergeComments: (task) => pool.run(task, { name: 'mergeComments' }) as Promise<Outcome<WrittenFile | null>>,
    typefaces: (task) => pool.run(task, { name: 'takeInTypefaces' }) as Promise<Outcome<TakenTypeface[]>>,
    view: (task) => pool.run(task, { name: 'viewOf' }) as Promise<Outcome<DrawingView>>,
    entity: (task) => pool.run(task, { name: 'entityOf' }) as Promise<Outcome<EntityFacts | null>>,
    close: () => pool.destroy(),
  };
}
