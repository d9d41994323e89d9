import { compareNumbers } from '../package/order';
import { matchesText } from '../package/words';
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

/** Filters of a register; absent ones let everything through. */
export interface RegisterFilter {
  /** Words, all of which a sheet's number or title has, letter case aside. */
  text?: string;
  /** Only issues for this purpose, and to this recipient. */
  purpose?: string;
  recipient?: string;
  /** True: only issues that no other one took the place of. */
  current?: boolean;
  /** True: only sheets that are not in all of those issues at one revision. */
  changed?: boolean;
}

/** The issues and sheets of a register that a filter lets through. */
export function filteredRegister(
  issues: readonly Issue[],
  { text = '', purpose, recipient, current, changed }: RegisterFilter,
): { issues: Issue[]; rows: RegisterRow[] } {
  const gone = superseded(issues);
  const shown = issues.filter(
    (issue) =>
      (purpose === undefined || issue.purpose === purpose) &&
      (recipient === undefined || issue.recipients.includes(recipient)) &&
      (!current || !gone.has(issue.id)),
  );
  const hasWords = matchesText(text);
  const rows = registerOf(shown).filter((row) => hasWords(row) && (!changed || new Set(row.revisions).size > 1));
  return { issues: shown, rows };
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
