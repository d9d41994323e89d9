import type { OutputPlan, PlanInput } from '../plan';
import { blankFields } from './blank-fields';
import { changedNames } from './changed-names';
import { danglingMarks } from './dangling-marks';
import type { Check, Finding, Severity } from './finding';
import { nameClashes } from './name-clashes';
import { outOfDateViews } from './out-of-date';
import { sheetFields } from './sheet-fields';
import { sheetsPresent } from './sheets-present';
import { tiles } from './tiles';
import { titleBlocks } from './title-block';

/** Every check, in the order in which findings are told. docs/checks.md lists them. */
const CHECKS: readonly Check[] = [
  sheetsPresent,
  tiles,
  blankFields,
  nameClashes,
  changedNames,
  outOfDateViews,
  titleBlocks,
  sheetFields,
  danglingMarks,
];

const RANK: Readonly<Record<Severity, number>> = { stop: 0, warning: 1, note: 2 };

/** Examines a package and its plan before a run; stops first. The same sentence is told once. */
export function runChecks(input: PlanInput, plan: OutputPlan): Finding[] {
  const rules = plan.problems.map((problem): Finding => ({ ...problem, severity: 'stop' }));
  const found = [...rules, ...CHECKS.flatMap((check) => check(input, plan))];
  const unique = new Map(found.map((finding) => [`${finding.code}\n${finding.sentence}`, finding]));
  return [...unique.values()].sort((a, b) => RANK[a.severity] - RANK[b.severity]);
}

export function hasStop(findings: readonly Finding[]): boolean {
  return findings.some((finding) => finding.severity === 'stop');
}
