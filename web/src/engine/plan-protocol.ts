import type { SheetFacts } from '@folvex/contract';
import type { Finding, PlannedFile, PlotDraft, PreparedRun, PublishingFacts, SeenFacts } from '@folvex/core';

/** A file that a run would write. */
export interface FileToWrite extends Pick<PlannedFile, 'path' | 'format'> {
  /** Number and title of each page. */
  pages: string[];
}

/** What a run of a package would write: no more than is shown, since thousands of files are copied between threads. */
export interface PlannedRun extends Pick<PreparedRun, 'destinations'> {
  packageId: string;
  files: FileToWrite[];
  /** How many pages its PDFs have. */
  pages: number;
}

/** What the checks find in a planned run. */
export interface CheckedRun {
  packageId: string;
  findings: readonly Finding[];
  /** What comes out of the plotters among its destinations; null for the others. */
  plots: readonly (PlotDraft | null)[];
}

/** What is known of the composed pages, the destination and earlier issues. */
export interface SeenOfRun extends Omit<SeenFacts, 'pages'> {
  pages: ReadonlyMap<string, SheetFacts>;
}

/** `SeenOfRun` as it changed since the last check. */
export interface SeenChange extends Partial<Omit<SeenOfRun, 'pages'>> {
  pages: { changed: [string, SheetFacts][]; gone: string[] };
}

/** Plans and checks runs. What it was told stays in its thread, so that only changes are sent. */
export interface PlanEngine {
  /** Facts that are left out are as they were. */
  plan(changed: Partial<PublishingFacts>): PlannedRun;
  /** Checks the run that was planned last; null before any, and where the findings are those of the last time. */
  check(changed: SeenChange): CheckedRun | null;
}
