import type { Drawing } from '../drawing/model';
import type { Problem } from '../problem';

/** A drawing with what was not understood of it, or the reason why there is none. */
export type ReadResult = { ok: true; drawing: Drawing; warnings: Problem[] } | { ok: false; problem: Problem };
