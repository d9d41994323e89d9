import * as checks from './checks';
import type { Check, Finding, Severity } from './finding';
import type { OutputPlan, PlanInput } from './plan';

const CHECKS: readonly Check[] = Object.values(checks);

/** Every code that a check may find, its usual severity, and what it finds. */
export const FINDINGS: readonly (readonly [code: string, severity: Severity, finds: string])[] = CHECKS.flatMap(
  ({ declared }) => Object.entries(declared).map(([code, [severity, finds]]) => [code, severity, finds] as const),
);

const RANK: Readonly<Record<Severity, number>> = { stop: 0, warning: 1, note: 2 };

/** What identifies a finding among those that somebody accepted: another sentence is another finding. */
export function findingKey({ code, sentence }: Pick<Finding, 'code' | 'sentence'>): string {
  return `${code}\n${sentence}`;
}

/**
 * Examines a package and its plan before a run; stops first. The same sentence is reported once. A project may give codes
 * another severity, and a package may accept findings that are not stops: those come last, with the reason.
 */
export function runChecks(input: PlanInput, plan: OutputPlan): Finding[] {
  const found = CHECKS.flatMap(({ declared, look }) =>
    look(input, plan).map((problem): Finding => ({ severity: declaredSeverity(declared, problem.code), ...problem })),
  );
  const unique = new Map(found.map((finding) => [findingKey(finding), finding]));
  const accepted = new Map((input.package.accepted ?? []).map(({ finding, reason }) => [finding, reason]));
  return [...unique.values()]
    .flatMap((finding): Finding[] => {
      const weight = finding.severity === 'stop' ? undefined : input.project.checks?.[finding.code];
      if (weight === 'off') return [];
      const weighed = weight ? { ...finding, severity: weight } : finding;
      const reason = weighed.severity === 'stop' ? undefined : accepted.get(findingKey(finding));
      return [reason === undefined ? weighed : { ...weighed, accepted: reason }];
    })
    .sort((a, b) => rankOf(a) - rankOf(b));
}

export function hasStop(findings: readonly Finding[]): boolean {
  return findings.some((finding) => finding.severity === 'stop');
}

function rankOf({ severity, accepted }: Finding): number {
  return accepted === undefined ? RANK[severity] : RANK.note + 1;
}

function declaredSeverity(declared: Check['declared'], code: string): Severity {
  const found = declared[code];
  if (!found) throw new Error(`the check does not declare ${code}`);
  return found[0];
}
