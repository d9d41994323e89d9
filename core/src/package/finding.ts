import type { Problem } from '../problem';
import type { Sheet } from '../sheet/model';
import type { Destination } from './destination-kinds';
import type { ComposedFacts } from './composed-facts';
import { isExtraPage } from './extra-pages';
import type { OutputPlan, PlanInput, PlannedFile } from './plan';
import type { SheetPackage } from './model';

/** How much a finding matters: a *stop* must be fixed before a run. */
export type Severity = 'stop' | 'warning' | 'note';

/** What fixes a finding with one press. */
export type Fix =
  | { words: string; names: SheetPackage['names'] }
  /** `at`: which of the destinations. */
  | { words: string; destination: Destination; at: number }
  /** Takes a page out of the order, all of its places or all but the first. */
  | { words: string; takeOut: string; keepFirst: boolean }
  | { words: string; follow: { sheet: string; drawing: string } };

export interface Finding extends Omit<Problem, 'code'> {
  /** One of those that its check declares. */
  code: string;
  severity: Severity;
  /** Id of the sheet that it is about. */
  about?: string;
  /**
   * The field of that sheet that is to be filled in: `sheet.` and the name that naming rules call it by, or `title.` and the
   * name of a field of its title block.
   */
  field?: string;
  fix?: Fix;
  /** Why somebody accepted it. */
  accepted?: string;
}

/** A finding as a check reports it: its severity is the one that the check declares for its code, unless it gives another. */
export type FoundProblem<Code extends string = string> = Omit<Finding, 'code' | 'severity' | 'accepted'> & {
  code: Code;
  severity?: Severity;
};

/** Looks at a package and its output plan. */
export type Look<Code extends string = string> = (input: PlanInput, plan: OutputPlan) => readonly FoundProblem<Code>[];

/** Every code that a check may find: its usual severity, and what it finds, for Settings and the docs. */
export type DeclaredFindings<Code extends string = string> = Readonly<
  Record<Code, readonly [severity: Severity, finds: string]>
>;

export interface Check {
  declared: DeclaredFindings;
  look: Look;
}

/** One check. Each is one file in `checks/`, from which come the list that runs, the weights in Settings and docs/checks.md. */
export function defineCheck<Code extends string>(declared: DeclaredFindings<Code>, look: Look<NoInfer<Code>>): Check {
  return { declared, look };
}

/** The sheets of the project that a package holds, in its order, each once; pages that it adds are none. */
export function sheetsOf({ sheets, package: pack }: Pick<PlanInput, 'sheets' | 'package'>): Sheet[] {
  const byId = new Map(sheets.map((sheet) => [sheet.id, sheet]));
  return [...new Set(pack.order)].flatMap((id) => (isExtraPage(pack, id) ? [] : (byId.get(id) ?? [])));
}

/** The sheets of the project, without the pages that the package adds. */
export function sheetsOfProject({ sheets, package: pack }: Pick<PlanInput, 'sheets' | 'package'>): Sheet[] {
  return sheets.filter(({ id }) => !isExtraPage(pack, id));
}

/** Whether a file holds only one sheet, perhaps in several copies. */
export function holdsOneSheet({ sheets }: PlannedFile): boolean {
  return new Set(sheets).size === 1;
}

/** What people call a sheet. */
export function nameOf({ number, title, id }: Pick<Sheet, 'number' | 'title' | 'id'>): string {
  return number || title || id;
}

/** What people call a view of a sheet, at the beginning of a sentence. */
export function viewOn({ views }: Pick<Sheet, 'views'>, id: string): string {
  const label = views.find((view) => view.id === id)?.label;
  return `The view ${label || id}`;
}

/** Looks at each sheet of a package by itself. */
export function forEachSheet<Code extends string>(
  look: (sheet: Sheet, input: PlanInput) => readonly (Omit<FoundProblem<Code>, 'place' | 'about'> | undefined)[],
): Look<Code> {
  return (input) =>
    sheetsOf(input).flatMap((sheet) =>
      look(sheet, input).flatMap((finding) =>
        finding ? [{ ...finding, place: { sheet: nameOf(sheet) }, about: sheet.id }] : [],
      ),
    );
}

/** The same of each sheet that was composed already; the others are not looked at. */
export function forEachPage<Code extends string>(
  look: (
    page: ComposedFacts,
    sheet: Sheet,
    input: PlanInput,
  ) => readonly (Omit<FoundProblem<Code>, 'place' | 'about'> | undefined)[],
): Look<Code> {
  return forEachSheet((sheet, input) => {
    const page = input.pages?.get(sheet.id);
    return page ? look(page, sheet, input) : [];
  });
}
