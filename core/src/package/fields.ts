import type { Fields } from '../naming/rule';
import type { ProjectFacts, Sheet } from '../sheet/model';
import { ownSheetFields } from '../sheet/title/fields';

/** What names are made from, for one page or bundle. */
export interface NamingContext {
  project: ProjectFacts;
  package: { name: string; purpose?: string; date?: string };
  /** Absent in the name of a bundle of several sheets. */
  sheet?: Sheet;
  group?: { name: string };
  /** Day of the run, YYYY-MM-DD. */
  runDate: string;
  /** The number of the run; absent: it has not begun. */
  runId?: string;
  /** Position in the package, counted from 1, and their number. */
  page?: number;
  pages: number;
}

/** The fields every rule may use, with their meaning. */
export const FIELD_HELP: Readonly<Record<string, string>> = {
  'project.number': 'number of the project',
  'project.name': 'name of the project',
  'project.client': 'client',
  'package.name': 'name of the package',
  'package.purpose': 'what the package is for',
  'package.date': 'date of the package',
  'sheet.number': 'number of the sheet',
  'sheet.title': 'title of the sheet',
  'sheet.revision': 'revision index of the sheet',
  'sheet.date': 'date of that revision',
  'group.name': 'group of the sheet',
  'run.date': 'day of the run',
  page: 'place in the reading order',
  pages: 'number of pages',
};

/** Looks up every field for a context; project fields of the office's own are `project.<name>`. */
export function fieldsOf(context: NamingContext): Fields {
  const { project, sheet } = context;
  const own = Object.fromEntries(Object.entries(project.fields).map(([name, value]) => [`project.${name}`, value]));
  return {
    ...own,
    ...ownSheetFields(project, sheet),
    'project.number': project.number,
    'project.name': project.name,
    'project.client': project.client,
    'package.name': context.package.name,
    'package.purpose': context.package.purpose ?? '',
    'package.date': context.package.date ?? '',
    'run.date': context.runDate,
    pages: String(context.pages),
    page: context.page === undefined ? '' : String(context.page),
    'sheet.number': sheet?.number ?? '',
    'sheet.title': sheet?.title ?? '',
    'sheet.revision': sheet?.revision?.index ?? '',
    'sheet.date': sheet?.revision?.date ?? '',
    'group.name': context.group?.name ?? '',
  };
}

/** Fields whose values make no folders of their own. */
export function withoutSlashes(fields: Fields): Fields {
  return Object.fromEntries(Object.entries(fields).map(([path, value]) => [path, value.replace(/[/\\]/g, '-')]));
}
