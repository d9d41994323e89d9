import type { RunInfo } from '@folvex/contract';

const known = new WeakMap<RunInfo, RunInfo>();

/**
 * A run with its PDFs only, which come before the files in other formats. The same run gives the same object, so that what was
 * begun with it (a search, a comparison) goes on while another run advances.
 */
export function pdfsOf(run: RunInfo): RunInfo {
  if (run.files.every(({ format }) => format === null)) return run;
  const made = known.get(run) ?? { ...run, files: run.files.filter(({ format }) => format === null) };
  known.set(run, made);
  return made;
}
