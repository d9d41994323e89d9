import type { EditAnswer } from '@folvex/contract';

/** The answer of the server to an edit that changed this. */
export function answerOf(changed: Partial<EditAnswer>): EditAnswer {
  const history = { undo: 'title of A-101', redo: null };
  return { words: 'title of A-101', sheets: [], removed: [], facts: {}, history, ...changed };
}
