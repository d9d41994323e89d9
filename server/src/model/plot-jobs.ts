import type { PlotJobState } from '@folvex/press';
import type { PlotProgress } from '@folvex/contract';

/** A printing job of a delivery. */
export interface PlotJobRecord {
  /** By which it is found at the plotter. */
  name: string;
  id: number;
  /** How many pieces of paper come out. */
  pieces: number;
  /** Positions in the run of the files that it has pages of. */
  files: number[];
  state: PlotJobState['state'] | 'unknown';
}

/** What a plotter was sent of a delivery. */
export interface PlotRecord extends Omit<PlotProgress, 'printed'> {
  /** How often the delivery had been sent again by then. */
  renewals: number;
  jobs: PlotJobRecord[];
}

/** How far a plotter is. */
export function progressOf({ jobs, pieces, rollM, areaM2, cost, waitsFor }: PlotRecord): PlotProgress {
  const done = jobs.filter(({ state }) => state === 'done');
  const printed = done.reduce((sum, job) => sum + job.pieces, 0);
  return { pieces, printed, rollM, areaM2, cost, waitsFor };
}
