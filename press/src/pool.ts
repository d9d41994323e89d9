import { Piscina } from 'piscina';
import type { EntityFacts, Outcome, Proof } from '@folvex/core';
import type { AssembledFile, AssemblyTask } from './assemble-to-file';
import type { BesideTask, MadeBeside } from './beside';
import type { ChangesTask, FoundChanges } from './changes';
import type { DrawingFile } from './drawings';
import type { FrameOnLayer, FrameTask } from './frames';
import type { InspectedDrawing } from './inspect';
import type { ProofTask } from './proof';
import type { BesideProofTask } from './proof-beside';
import type { PictureTask, ShownPicture } from './shown-picture';
import type { UnlockTask } from './unlock';
import type { DrawingView, ViewTask } from './view';
import type { MadePage, MadePart, PartTask, SheetTask } from './make-sheet';

/** Worker threads that read drawings and make sheets. */
export interface Press {
  makePart(task: PartTask): Promise<Outcome<MadePart>>;
  makeBeside(task: BesideTask): Promise<Outcome<MadeBeside>>;
  makePage(task: SheetTask): Promise<Outcome<MadePage>>;
  inspect(file: Pick<DrawingFile, 'name' | 'path' | 'hash'>): Promise<Outcome<InspectedDrawing>>;
  assemble(task: AssemblyTask): Promise<AssembledFile>;
  proof(task: ProofTask): Promise<Proof>;
  proofBeside(task: BesideProofTask): Promise<Proof>;
  frames(task: FrameTask): Promise<{ layer: string; frames: FrameOnLayer[] }[]>;
  /** A picture of a drawing as browsers show it; undefined where there is none such. */
  picture(task: PictureTask): Promise<ShownPicture | undefined>;
  changes(task: ChangesTask): Promise<Outcome<FoundChanges>>;
  unlock(task: UnlockTask): Promise<Outcome<{ temporary: string; hash: string; bytes: number }>>;
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
  });
  return {
    makePart: (task) => pool.run(task, { name: 'makePart' }) as Promise<Outcome<MadePart>>,
    makeBeside: (task) => pool.run(task, { name: 'makeBeside' }) as Promise<Outcome<MadeBeside>>,
    makePage: (task) => pool.run(task, { name: 'makePage' }) as Promise<Outcome<MadePage>>,
    inspect: (file) => pool.run(file, { name: 'inspectDrawing' }) as Promise<Outcome<InspectedDrawing>>,
    assemble: (task) => pool.run(task, { name: 'assembleToFile' }) as Promise<AssembledFile>,
    proof: (task) => pool.run(task, { name: 'proofOf' }) as Promise<Proof>,
    proofBeside: (task) => pool.run(task, { name: 'proofOfBeside' }) as Promise<Proof>,
    frames: (task) => pool.run(task, { name: 'framesOf' }) as Promise<{ layer: string; frames: FrameOnLayer[] }[]>,
    picture: (task) => pool.run(task, { name: 'pictureOf' }) as Promise<ShownPicture | undefined>,
    changes: (task) => pool.run(task, { name: 'changesOf' }) as Promise<Outcome<FoundChanges>>,
    unlock: (task) =>
      pool.run(task, { name: 'unlockPdf' }) as Promise<Outcome<{ temporary: string; hash: string; bytes: number }>>,
    view: (task) => pool.run(task, { name: 'viewOf' }) as Promise<Outcome<DrawingView>>,
    entity: (task) => pool.run(task, { name: 'entityOf' }) as Promise<Outcome<EntityFacts | null>>,
    close: () => pool.destroy(),
  };
}
