import { defineCheck } from '../finding';

/** A naming rule cannot be read. */
export const namingRules = defineCheck(
  { 'naming.rule': ['stop', 'a naming rule that cannot be read, with what is wrong in it'] },
  (_, plan) => plan.problems.map((problem) => ({ ...problem, code: 'naming.rule' })),
);
