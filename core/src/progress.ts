/** How long work tells how far it is, and learns that it should stop. */
export interface Progress {
  /** `done` of `total` steps are finished; `what` names the step now begun. */
  report(done: number, total: number, what?: string): void;
  /** True once the work was cancelled; the work then stops at its next step. */
  readonly cancelled: boolean;
}

export const SILENT: Progress = { report: () => undefined, cancelled: false };
