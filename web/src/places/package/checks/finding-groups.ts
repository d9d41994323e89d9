import { findingKey, FINDINGS, type Finding, type Severity } from '@folvex/core';

/** Findings of one kind that are shown as one row. */
export interface FindingGroup {
  key: string;
  /** What they are, such as `A view that overlaps another one`. */
  words: string;
  severity: Severity;
  accepted: boolean;
  findings: readonly Finding[];
}

/** From this many on, findings of one kind are shown as one row. */
const LEAST_IN_GROUP = 3;
const FINDS = new Map(FINDINGS.map(([code, , finds]) => [code, finds]));

/** Findings in their order, grouped by kind; a kind with fewer findings than a group needs keeps a row for each. */
export function groupedFindings(findings: readonly Finding[]): FindingGroup[] {
  const kinds = new Map<string, Finding[]>();
  for (const finding of findings) {
    const kind = `${finding.code} ${finding.severity} ${finding.accepted !== undefined}`;
    const found = kinds.get(kind);
    if (found) found.push(finding);
    else kinds.set(kind, [finding]);
  }
  return [...kinds].flatMap(([kind, of]): FindingGroup[] =>
    of.length < LEAST_IN_GROUP ? of.map((finding) => groupOf(findingKey(finding), [finding])) : [groupOf(kind, of)],
  );
}

function groupOf(key: string, findings: readonly Finding[]): FindingGroup {
  const { code, severity, accepted, sentence } = findings[0]!;
  // The part after a comma is about a single finding.
  const [words] = (FINDS.get(code) ?? sentence).split(',') as [string];
  return { key, words: words[0]!.toUpperCase() + words.slice(1), severity, accepted: accepted !== undefined, findings };
}
