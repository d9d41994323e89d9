import { fieldsOf, withoutSlashes, type NamingContext } from './fields';
import { legalName, legalPath } from '../naming/legal';
import { applyRule, fieldsIn, parseRule, type NamingRule } from '../naming/rule';
import type { PlotterPaper } from '../plot/media';
import type { Problem } from '../problem';
import type { Group } from '../sheet/groups';
import type { ProjectFacts, Sheet } from '../sheet/model';
import { extraFormatsOf } from './extra-formats';
import { EXTRA_FORMATS, FORMATS, type ExtraFormat } from './formats';
import type { IssuedState } from './issued-state';
import type { SheetPackage } from './model';
import type { Recipe } from '../recipe/recipe';
import type { ComposedFacts } from './composed-facts';

/** What an output plan is made from. */
/** Paths that are taken at a destination, with the names that new files would get where both are kept. */
export type TakenPaths = ReadonlyMap<string, string | undefined>;

export interface PlanInput {
  project: ProjectFacts;
  groups: readonly Group[];
  sheets: readonly Sheet[];
  package: SheetPackage;
  /** Day of the run, YYYY-MM-DD. */
  runDate: string;
  /** The number of the run, for stamps; absent: it has not begun. */
  runId?: string;
  /**
   * Of each drawing by id, where drawings have versions: its name and latest version, the day that one came in
   * (YYYY-MM-DD), the files that it refers to, what it was read from, and the SHA-256 of its content.
   */
  latest?: ReadonlyMap<
    string,
    { name: string; version: number; at?: string; references?: string[]; format?: string; hash?: string }
  >;
  /** The recipe of the package; absent: what depends on it is not looked at. */
  recipe?: Recipe;
  /** Facts of each composed sheet, by id; sheets that are not composed yet are missing. */
  pages?: ReadonlyMap<string, ComposedFacts>;
  /** What is at each of the destinations already of the planned files; undefined where that is not known. */
  there?: readonly (TakenPaths | undefined)[];
  /** What the plotters among the destinations tell of their paper; undefined where that is not known, or it is none. */
  plotters?: readonly (PlotterPaper | undefined)[];
  /** Each sheet as the latest issue that holds it has it, by id; absent: not looked at. */
  issued?: ReadonlyMap<string, IssuedState>;
  /** True where the files get passwords. */
  isProtected?: boolean;
  /** All packages of the project; absent: what depends on them is not looked at. */
  packages?: readonly Pick<SheetPackage, 'order'>[];
}

/** A file that a run will write. */
export interface PlannedFile {
  /** Folders and name, with slashes; legal on every usual system. Empty when no name could be made. */
  path: string;
  /** Absent: PDF. */
  format?: ExtraFormat;
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

/**
 * The exact files that a run of the package will write, in order: the PDFs, then the files in other formats, format by
 * format. Sheets the project does not have are left out.
 */
export function outputPlan(input: PlanInput): OutputPlan {
  const { names, bundling } = input.package;
  const extra = extraFiles(input);
  const single = bundling === 'sheet';
  const file = parseRule(names.file);
  const bundle = parseRule(names.bundle);
  const folder = parseRule(names.folder);
  const used = [
    ...(single || extra.length > 0 ? [['file', file] as const] : []),
    ...(single ? [] : [['bundle', bundle] as const]),
    ['folder', folder] as const,
  ];
  const problems = used.flatMap(([part, rule]) =>
    rule.ok ? [] : [{ ...rule.problem, place: { path: `names.${part}` } }],
  );
  if (problems.length > 0 || !folder.ok) return { files: [], problems };
  const of = (rule: typeof file, sheets: Sheet[], format?: ExtraFormat): PlannedFile[] =>
    rule.ok ? [plannedFile(input, sheets, rule.value, folder.value, format)] : [];
  const files = bundlesOf(input).flatMap((sheets) => of(single ? file : bundle, sheets));
  const more = extra.flatMap(({ sheet, format }) => of(file, [sheet], format));
  return { files: [...files, ...more], problems };
}

/** Each sheet of a package once in each format that it is written in besides PDF. */
function extraFiles({ package: pack, sheets }: PlanInput): { sheet: Sheet; format: ExtraFormat }[] {
  const byId = new Map(sheets.map((sheet) => [sheet.id, sheet]));
  const ordered = [...new Set(pack.order)].flatMap((id) => byId.get(id) ?? []);
  return EXTRA_FORMATS.flatMap((format) =>
    ordered.flatMap((sheet) => (extraFormatsOf(pack, sheet.id).includes(format) ? [{ sheet, format }] : [])),
  );
}

function bundlesOf({ package: pack, sheets }: PlanInput): Sheet[][] {
  const byId = new Map(sheets.map((sheet) => [sheet.id, sheet]));
  const ordered = pack.order.flatMap((id) => {
    const sheet = byId.get(id);
    return sheet ? Array<Sheet>(pack.pages?.[id]?.copies ?? 1).fill(sheet) : [];
  });
  if (pack.bundling === 'one') return ordered.length ? [ordered] : [];
  const bundles = new Map<Sheet | string, Sheet[]>();
  for (const sheet of ordered) {
    const key = pack.bundling === 'sheet' ? sheet : sheet.group;
    const bundle = bundles.get(key);
    if (bundle) bundle.push(sheet);
    else bundles.set(key, [sheet]);
  }
  return [...bundles.values()];
}

function plannedFile(
  input: PlanInput,
  sheets: Sheet[],
  name: NamingRule,
  folder: NamingRule,
  format?: ExtraFormat,
): PlannedFile {
  const { blanks, extraFormats, bundling } = input.package;
  const fields = fieldsOf(contextOf(input, sheets, bundling === 'sheet' || format !== undefined));
  const file = applyRule(name, fields, blanks);
  const place = applyRule(folder, fields, blanks);
  // Values must not make folders of their own: a title with a slash is still one name.
  const ruled = legalPath(applyRule(folder, withoutSlashes(fields), blanks).name);
  const own = format && extraFormats?.apart ? FORMATS[format].name : '';
  const legal = legalName(file.name, FORMATS[format ?? 'pdf'].extension);
  return {
    path: legal === '' ? '' : [ruled, own, legal].filter(Boolean).join('/'),
    ...(format && { format }),
    sheets: sheets.map((sheet) => sheet.id),
    wanted: file.name,
    blank: [...new Set([...file.blank, ...place.blank])].filter((path) => path in fields),
    unknown: [...new Set([...fieldsIn(name), ...fieldsIn(folder)])].filter((path) => !(path in fields)),
  };
}

/** Fields of a file: those of its sheet; of a bundle, the group's if it has just one, and no sheet's. */
function contextOf(input: PlanInput, sheets: Sheet[], single: boolean): NamingContext {
  const { project, package: pack, runDate, groups } = input;
  const base = { project, package: pack, runDate, pages: pack.order.length };
  const shared = new Set(sheets.map((sheet) => sheet.group)).size === 1 ? sheets[0]?.group : undefined;
  const group = groups.find(({ id }) => id === shared);
  if (!single) return { ...base, ...(group && { group }) };
  const sheet = sheets[0]!;
  return { ...base, sheet, page: pack.order.indexOf(sheet.id) + 1, ...(group && { group }) };
}
