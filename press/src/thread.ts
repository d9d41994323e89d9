import type * as Formats from './formats';
import type * as Proof from './pdf/proof';

// What runs inside each worker thread: the functions that the pool calls by name.
export { framesOf } from './drawings/frames';
export { inspectDrawing } from './drawings/inspect';
export { makePage } from './sheet/make-page';
export { makeSheet } from './make-sheet';
export { assembleToFile } from './pdf/assemble-to-file';
export { pictureOf } from './drawings/browser-picture';
export { changesOf } from './drawings/changes';
export { mergeComments } from './drawings/merge-comments';
export { unlockPdf } from './drawings/unlock';
export { takeInTypefaces } from './typefaces/take-in';
export { entityOf, viewOf } from './drawings/view';

// Reading files again brings much code with it that most threads never need: it is loaded on demand.
export const proofOf: typeof Proof.proofOf = async (task) => (await import('./pdf/proof')).proofOf(task);
export const verifyFormat: typeof Formats.verifyFormat = async (task) => (await import('./formats')).verifyFormat(task);
