import type { Finding } from '@folvex/core';
import type { SheetFinding } from './findings.actions';

/**
 * The findings of a package that lead to sheets, in the order of a list: those that are accepted are left out, and so
 * is another one about a field that is in the list already.
 */
export function sheetFindings(
  findings: readonly Pick<Finding, 'about' | 'sentence' | 'field' | 'accepted' | 'place'>[],
  added: readonly string[],
): SheetFinding[] {
  const found = new Map<string, SheetFinding>();
  for (const { about, sentence, field, accepted, place } of findings) {
    if (about === undefined || accepted || added.includes(about)) continue;
    const one = { about, sentence, number: place.sheet ?? '', ...(field !== undefined && { field }) };
    if (!found.has(keyOf(one))) found.set(keyOf(one), one);
  }
  return [...found.values()];
}

/** Where a finding is in such a list; -1 where it is not in it. */
export function indexOfFinding(findings: readonly SheetFinding[], wanted: Subject): number {
  return findings.findIndex((one) => keyOf(one) === keyOf(wanted));
}

type Subject = Pick<Finding, 'about' | 'sentence' | 'field'>;

function keyOf({ about, field, sentence }: Subject): string {
  return `${about}\n${field ?? sentence}`;
}
