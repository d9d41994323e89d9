/** What runs inside each worker thread: the functions that the pool calls by name. */
export { makeBeside } from './beside';
export { framesOf } from './frames';
export { inspectDrawing } from './inspect';
export { makePage, makePart } from './make-sheet';
export { assembleToFile } from './assemble-to-file';
export { pictureOf } from './shown-picture';
export { changesOf } from './changes';
export { proofOf } from './proof';
export { proofOfBeside } from './proof-beside';
export { unlockPdf } from './unlock';
export { entityOf, viewOf } from './view';
