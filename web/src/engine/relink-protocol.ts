import type { LinkedFile, Problem, RelinkPlan } from '@folvex/core';

/** A file as a person gives it: PDFs, or ZIP archives of them. */
export interface GivenFile {
  path: string;
  bytes: Uint8Array<ArrayBuffer>;
}

export interface LinkSurvey {
  files: LinkedFile[];
  problems: Problem[];
}

/** Reads and repairs the links of PDF sets. The files stay in its thread. */
export interface RelinkEngine {
  /** Replaces what was open before; `progress` is called with the number of files done. */
  look(given: GivenFile[], progress: (done: number, all: number) => void): Promise<LinkSurvey>;
  /** All files with their new names and links, as a ZIP archive. */
  apply(plan: RelinkPlan, progress: (done: number, all: number) => void): Promise<Uint8Array<ArrayBuffer>>;
}
