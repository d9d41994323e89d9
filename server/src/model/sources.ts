/** Kinds of things that are made once and kept, by the code that makes them. */
export type MadeBy = 'sheet' | 'page' | 'changes' | 'space';

/** Put in by the build: a hash of the sources, and of the packages, that make each kind (`scripts/lib/source-hashes.mjs`). */
declare const FOLVEX_SOURCE_HASHES: Readonly<Record<MadeBy, string>> | undefined;

const UNBUILT: Readonly<Record<MadeBy, string>> = { sheet: '', page: '', changes: '', space: '' };

/**
 * Part of the key of everything that is kept, so that nothing made by other code is ever taken for it. Empty in tests,
 * which run the sources unbuilt on a store of their own.
 */
export const SOURCE_HASHES = typeof FOLVEX_SOURCE_HASHES === 'undefined' ? UNBUILT : FOLVEX_SOURCE_HASHES;
