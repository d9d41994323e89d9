import type { Problem } from '../../problem';
import type { OutputPlan, PlanInput } from '../plan';

/** How much a finding matters: a *stop* must be mended before a run. */
export type Severity = 'stop' | 'warning' | 'note';

export interface Finding extends Problem {
  severity: Severity;
}

/** One check: looks at a package and its output plan. */
export type Check = (input: PlanInput, plan: OutputPlan) => Finding[];
