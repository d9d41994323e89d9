import { compareNumbers } from '../package/order';
import type { Issue } from './model';

/** A row of the issue register: a sheet with its revision in each issue. */
export interface RegisterRow {
  id: string;
  /** As the latest issue that holds it says. */
  number: string;
  title: string;
  /** By issue, in their order; undefined where it was not part of it, empty where it had no revision. */
  revisions: (string | undefined)[];
}

/** Sheets against issues, sheets by their number, issues as they are given. */
export function registerOf(issues: readonly Issue[]): RegisterRow[] {
  const rows = new Map<string, RegisterRow>();
  issues.forEach((issue, at) => {
    for (const { id, number, title, revision } of issue.sheets) {
      const row = rows.get(id) ?? { id, number, title, revisions: issues.map(() => undefined) };
      // What a later issue calls it is what it is called.
      rows.set(id, { ...row, number, title });
      row.revisions[at] = revision;
    }
  });
  return [...rows.values()].sort((a, b) => compareNumbers(a.number, b.number));
}

/** Ids of issues whose place another one took. */
export function superseded(issues: readonly Issue[]): Set<string> {
  return new Set(issues.flatMap(({ supersedes }) => (supersedes ? [supersedes] : [])));
}
