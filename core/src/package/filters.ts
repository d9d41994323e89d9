import { describePaper, paperOfChoice } from '../paper/sizes';
import { drawingsShown, outOfDate, type ProjectFacts, type Sheet } from '../sheet/model';
import { matchesText } from './words';

/** Filters of sheets; absent ones let everything through. */
export interface SheetFilter {
  /** Words, all of which its number or title has, letter case aside. */
  text?: string;
  /** Id of its group; empty for sheets in none. */
  group?: string;
  /** Id of a drawing that it shows. */
  drawing?: string;
  /** Its paper, as people say it. */
  paper?: string;
  /** Index of its revision; empty for sheets without one. */
  revision?: string;
  /** True: only those that show something held behind its drawing. */
  outOfDate?: boolean;
  /** Only those of these ids: the sheets of a package, say. */
  within?: readonly string[];
  /** Only those that this issue did not have, or had at another revision. */
  changedSince?: { sheets: readonly { id: string; revision: string }[] };
}

/** What sheets are compared with besides themselves. */
export interface FilterFacts {
  project: Pick<ProjectFacts, 'papers'>;
  /** Latest version of a drawing by its id. */
  latest(drawing: string): number | undefined;
}

/** The sheets that a filter lets through, in their order. */
export function filteredSheets(sheets: readonly Sheet[], filter: SheetFilter, facts: FilterFacts): Sheet[] {
  const hasWords = matchesText(filter.text ?? '');
  const within = filter.within && new Set(filter.within);
  const issued = filter.changedSince && new Map(filter.changedSince.sheets.map(({ id, revision }) => [id, revision]));
  return sheets.filter((sheet) => {
    const index = sheet.revision?.index ?? '';
    return (
      hasWords(sheet) &&
      (filter.group === undefined || sheet.group === filter.group) &&
      (filter.drawing === undefined || drawingsShown(sheet).includes(filter.drawing)) &&
      (filter.paper === undefined || paperWords(sheet, facts) === filter.paper) &&
      (filter.revision === undefined || index === filter.revision) &&
      (!filter.outOfDate || outOfDate(sheet, facts.latest).length > 0) &&
      (!within || within.has(sheet.id)) &&
      (!issued || issued.get(sheet.id) !== index)
    );
  });
}

/** The paper of a sheet in words; empty where only composing can decide it. */
export function paperWords({ paper }: Pick<Sheet, 'paper'>, { project }: Pick<FilterFacts, 'project'>): string {
  const size = paper && paperOfChoice(paper, project.papers);
  return size ? describePaper(size, project.papers) : '';
}
