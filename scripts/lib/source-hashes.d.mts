import type { Plugin } from 'esbuild';

/** Hashes of the sources that make each kind of thing that is kept, 16 hexadecimal digits each. */
export function sourceHashes(
  root: string,
  outsidePackages: Plugin,
): Promise<Record<'sheet' | 'page' | 'changes' | 'space', string>>;
