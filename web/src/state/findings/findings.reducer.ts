import { createFeature, createReducer, on } from '@ngrx/store';
import { ProjectActions } from '../project/project.actions';
import { FindingActions, type SheetFinding } from './findings.actions';

export interface FindingsState {
  packageId: string;
  /** As they were when the first of them was opened. */
  findings: readonly SheetFinding[];
  /** Which of them is open. */
  at: number;
}

const initial: FindingsState = { packageId: '', findings: [], at: 0 };

/** The findings of a package that a person goes through, sheet by sheet. */
export const findingsFeature = createFeature({
  name: 'findings',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, FindingActions.findingsClosed, () => initial),
    on(FindingActions.findingOpened, (_, { packageId, findings, at }) => ({ packageId, findings, at })),
    on(FindingActions.nextFindingOpened, (state) => ({
      ...state,
      at: Math.min(state.at + 1, Math.max(0, state.findings.length - 1)),
    })),
  ),
});

/**
 * The findings of a package that lead to sheets, in the order of a list: those that are accepted are left out, and so
 * is another one about a field that is in the list already.
 */
export function sheetFindings(
  findings: readonly (Partial<SheetFinding> & { sentence: string; accepted?: string; place: { sheet?: string } })[],
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

/** Where a finding is in such a list. */
export function positionOf(findings: readonly SheetFinding[], wanted: Partial<SheetFinding>): number {
  return findings.findIndex((one) => keyOf(one) === keyOf(wanted));
}

function keyOf({ about, field, sentence }: Partial<SheetFinding>): string {
  return `${about}\n${field ?? sentence}`;
}
