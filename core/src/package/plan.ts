import { fieldsOf, type NamingContext } from './fields';
import { legalName, legalPath } from '../naming/legal';
import { applyRule, fieldsIn, parseRule, type Fields, type NamingRule } from '../naming/rule';
import type { Problem } from '../problem';
import type { Group } from '../sheet/groups';
import type { ProjectFacts, Sheet } from '../sheet/model';
import type { Recipe, SheetPackage } from './model';
import type { ComposedFacts } from './composed-facts';

/** What an output plan is made from. */
export interface PlanInput {
  project: ProjectFacts;
  groups: readonly Group[];
  sheets: readonly Sheet[];
  package: SheetPackage;
  /** Day of the run, YYYY-MM-DD. */
  runDate: string;
  /**
   * Of each drawing by id, where drawings have versions: its name and latest version, the day that one came in
   * (YYYY-MM-DD), and the files that it refers to.
   */
  latest?: ReadonlyMap<string, { name: string; version: number; at?: string; references?: string[] }>;
  /** The recipe of the package; absent: what depends on it is not looked at. */
  recipe?: Recipe;
  /** What composing each sheet told; sheets that are not composed yet are missing. */
  pages?: ReadonlyMap<string, ComposedFacts>;
  /** All packages of the project; absent: what depends on them is not looked at. */
  packages?: readonly Pick<SheetPackage, 'order'>[];
}

/** A file that a run will write. */
export interface PlannedFile {
  /** Folders and name, with slashes; legal on every usual system. Empty when no name could be made. */
  path: string;
  /** The sheets on its pages, in order; more often than once where there are copies. */
  sheets: string[];
  /** Name as the rule gave it, before illegal characters were replaced. */
  wanted: string;
  /** Fields that were blank although the rule needs them. */
  blank: string[];
  /** Fields the rule names that do not exist. */
  unknown: string[];
}

export interface OutputPlan {
  files: PlannedFile[];
  /** Why rules could not be read; then there are no files. */
  problems: Problem[];
}

const EXTENSION = '.pdf';

/** The exact files that a run of the package will write, in order. Sheets the project does not have are left out. */
export function outputPlan(input: PlanInput): OutputPlan {
  const { names, bundling } = input.package;
  const single = bundling === 'sheet';
  const name = parseRule(single ? names.file : names.bundle);
  const folder = parseRule(names.folder);
  const problems = [name, folder].flatMap((rule, i) =>
    rule.ok ? [] : [{ ...rule.problem, place: { path: i ? 'names.folder' : single ? 'names.file' : 'names.bundle' } }],
  );
  if (!name.ok || !folder.ok) return { files: [], problems };
  const files = bundlesOf(input).map((sheets) => plannedFile(input, sheets, name.value, folder.value));
  return { files, problems };
}

function bundlesOf({ package: pack, sheets }: PlanInput): Sheet[][] {
  const byId = new Map(sheets.map((sheet) => [sheet.id, sheet]));
  const ordered = pack.order.flatMap((id) => {
    const sheet = byId.get(id);
    return sheet ? Array<Sheet>(pack.pages?.[id]?.copies ?? 1).fill(sheet) : [];
  });
  if (pack.bundling === 'sheet') {
    // Copies stand in the one file of their sheet.
    return [...new Set(ordered)].map((sheet) => ordered.filter((one) => one === sheet));
  }
  if (pack.bundling === 'one') return ordered.length ? [ordered] : [];
  const groups = new Map<string, Sheet[]>();
  for (const sheet of ordered) groups.set(sheet.group, [...(groups.get(sheet.group) ?? []), sheet]);
  return [...groups.values()];
}

function plannedFile(input: PlanInput, sheets: Sheet[], name: NamingRule, folder: NamingRule): PlannedFile {
  const fields = fieldsOf(contextOf(input, sheets));
  const { blanks } = input.package;
  const file = applyRule(name, fields, blanks);
  const place = applyRule(folder, fields, blanks);
  // Values must not make folders of their own: a title with a slash is still one name.
  const legalFolder = legalPath(applyRule(folder, withoutSlashes(fields), blanks).name);
  const legal = legalName(file.name, EXTENSION);
  return {
    path: legal === '' ? '' : legalFolder ? `${legalFolder}/${legal}` : legal,
    sheets: sheets.map((sheet) => sheet.id),
    wanted: file.name,
    blank: [...new Set([...file.blank, ...place.blank])].filter((path) => path in fields),
    unknown: [...new Set([...fieldsIn(name), ...fieldsIn(folder)])].filter((path) => !(path in fields)),
  };
}

/** Fields of a file: those of its sheet; of a bundle, the group's if it has just one, and no sheet's. */
function contextOf(input: PlanInput, sheets: Sheet[]): NamingContext {
  const { project, package: pack, runDate, groups } = input;
  const base = { project, package: { name: pack.name }, runDate, pages: pack.order.length };
  const shared = new Set(sheets.map((sheet) => sheet.group)).size === 1 ? sheets[0]?.group : undefined;
  const group = groups.find(({ id }) => id === shared);
  if (pack.bundling !== 'sheet') return { ...base, ...(group && { group }) };
  const sheet = sheets[0]!;
  return { ...base, sheet, page: pack.order.indexOf(sheet.id) + 1, ...(group && { group }) };
}

function withoutSlashes(fields: Fields): Fields {
  return Object.fromEntries(Object.entries(fields).map(([path, value]) => [path, value.replace(/[/\\]/g, '-')]));
}
