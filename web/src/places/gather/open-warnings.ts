import type { DrawingInfo } from '@folvex/contract';

/** A drawing without the warnings of missing files that have been added since. `present`: names of files, lower case. */
export function withOpenWarnings(drawing: DrawingInfo, present: ReadonlySet<string>): DrawingInfo {
  const warnings = drawing.warnings.filter(({ refersTo }) => !refersTo || !present.has(refersTo.toLowerCase()));
  return warnings.length === drawing.warnings.length ? drawing : { ...drawing, warnings };
}
