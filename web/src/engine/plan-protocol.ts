import type { SheetFacts } from '@folvex/contract';
import type { Finding, PreparedRun, PublishingFacts, SeenFacts } from '@folvex/core';

/** What a run of a package would write. */
export interface PlannedRun extends Pick<PreparedRun, 'plan' | 'destination'> {
  packageId: string;
  /** The sheets that are published, by id. */
  sheets: ReadonlyMap<string, { number: string; title: string }>;
  /** How many pages its PDFs have. */
  pages: number;
}

/** What the checks find in a planned run. */
export interface CheckedRun {
  packageId: string;
  findings: readonly Finding[];
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
