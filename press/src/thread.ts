import type * as Beside from './beside';
import type * as Proof from './proof';

// What runs inside each worker thread: the functions that the pool calls by name.
export { framesOf } from './frames';
export { inspectDrawing } from './inspect';
export { makePage, makePart } from './make-sheet';
export { assembleToFile } from './assemble-to-file';
export { pictureOf } from './shown-picture';
export { changesOf } from './changes';
export { proofOfBeside } from './proof-beside';
export { unlockPdf } from './unlock';
export { entityOf, viewOf } from './view';

/** What paints brings much with it that most threads never need: it is loaded when it is asked for. */
export const makeBeside: typeof Beside.makeBeside = async (task) => (await import('./beside')).makeBeside(task);
export const proofOf: typeof Proof.proofOf = async (task) => (await import('./proof')).proofOf(task);
