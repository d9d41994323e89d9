import { scaleOfSheet, type Scale } from '../../measure/scale';
import { applyRule, fieldsIn, parseRule, type Fields } from '../../naming/rule';
import { describePaper, type PaperSize } from '../../paper/sizes';
import { findWithOwn, withOwn } from '../../shipped';
import type { ProjectFacts, Sheet } from '../model';
import { SHIPPED_TEMPLATES } from './shipped';
import type { TitleCell, TitleTemplate } from './template';

/** Everything a title block shows; derived, never typed twice. */
export interface TitleFacts {
  project: ProjectFacts;
  sheet: Sheet;
  paper: PaperSize;
  scales: readonly Scale[];
  /** True where all views state their scales in feet and inches. */
  imperial: boolean;
  /** Its place in the package, and how many pages that has; absent where it is in none. */
  page?: PagePlace;
}

/** Page n of m of a package, n counted from 1. */
export interface PagePlace {
  page: number;
  pages: number;
}

const OWN = 'block.';
const STANDARD = SHIPPED_TEMPLATES[0]!;

/** All templates of a project: the shipped ones and its own, which may take the place of a shipped one. */
export function templatesOf(project: Pick<ProjectFacts, 'titleBlocks'>): TitleTemplate[] {
  return withOwn(SHIPPED_TEMPLATES, project.titleBlocks);
}

/** The template that a sheet's title block follows; undefined where there is no such template. */
export function templateOf(
  project: Pick<ProjectFacts, 'titleBlocks'>,
  { template = STANDARD.id }: { template?: string },
): TitleTemplate | undefined {
  return findWithOwn(SHIPPED_TEMPLATES, project.titleBlocks, template);
}

/**
 * Values of the fields that cells may name. `block.<name>` is what was typed for this sheet, or else the project's own
 * field of that name, so that what holds for all sheets is typed once.
 */
export function titleFields({ project, sheet, paper, scales, imperial, page }: TitleFacts): Fields {
  const prefixed = (prefix: string, values: Readonly<Record<string, string>>): Fields =>
    Object.fromEntries(Object.entries(values).map(([name, value]) => [`${prefix}${name}`, value]));
  const typed = Object.entries(sheet.titleBlock?.fields ?? {}).filter(([, value]) => value.trim() !== '');
  return {
    ...prefixed('project.', project.fields),
    ...prefixed(OWN, { ...project.fields, ...Object.fromEntries(typed) }),
    ...ownSheetFields(project, sheet),
    'project.number': project.number,
    'project.name': project.name,
    'project.client': project.client,
    'sheet.number': sheet.number,
    'sheet.title': sheet.title,
    'sheet.scale': scaleOfSheet(scales, imperial ? 'imperial' : 'metric'),
    'sheet.paper': describePaper(paper, project.papers),
    'sheet.revision': sheet.revision?.index ?? '',
    'sheet.date': sheet.revision?.date ?? '',
    page: page ? String(page.page) : '',
    pages: page ? String(page.pages) : '',
  };
}

/** Values of the sheet fields of a project's own, by the path that rules name them with. */
export function ownSheetFields(
  { sheetFields = [] }: Pick<ProjectFacts, 'sheetFields'>,
  sheet: Pick<Sheet, 'fields'> | undefined,
): Record<string, string> {
  return Object.fromEntries(sheetFields.map(({ name }) => [`sheet.${name}`, sheet?.fields?.[name] ?? '']));
}

/** Of templates that were looked at: thousands of sheets share a few. */
const pageNumbers = new WeakMap<TitleTemplate, boolean>();

/** True where the title block of a sheet shows its place in the package. */
export function showsPageNumber(
  project: Pick<ProjectFacts, 'titleBlocks'>,
  { titleBlock }: Pick<Sheet, 'titleBlock'>,
): boolean {
  const template = titleBlock && templateOf(project, titleBlock);
  if (!template) return false;
  const known = pageNumbers.get(template);
  if (known !== undefined) return known;
  const shows = template.cells.some(({ text = '' }) => {
    const rule = parseRule(text);
    return rule.ok && fieldsIn(rule.value).some((path) => path === 'page' || path === 'pages');
  });
  pageNumbers.set(template, shows);
  return shows;
}

/** The text of a cell; for a rule that cannot be read, the error itself, so that it is seen. */
export function cellText(cell: TitleCell, fields: Fields): string {
  const rule = parseRule(cell.text ?? '');
  return rule.ok ? applyRule(rule.value, fields).name.trim() : rule.problem.sentence;
}

/** Names of the fields that a person types for each sheet, in the order of the template's cells. */
export function typedFields(template: TitleTemplate): { name: string; caption: string; required: boolean }[] {
  const found = new Map<string, { name: string; caption: string; required: boolean }>();
  for (const cell of template.cells) {
    const rule = parseRule(cell.text ?? '');
    if (!rule.ok) continue;
    for (const path of fieldsIn(rule.value)) {
      const name = path.slice(OWN.length);
      if (!path.startsWith(OWN) || found.has(name)) continue;
      found.set(name, { name, caption: cell.caption ?? name, required: cell.required ?? false });
    }
  }
  return [...found.values()];
}

/** Captions of the required cells of a sheet's title block that have no value. */
export function blankCells(facts: TitleFacts): { cell: TitleCell; caption: string }[] {
  const template = facts.sheet.titleBlock && templateOf(facts.project, facts.sheet.titleBlock);
  if (!template) return [];
  const fields = titleFields(facts);
  return template.cells
    .filter((cell) => cell.required && (cell.kind ?? 'text') === 'text' && cellText(cell, fields) === '')
    .map((cell) => ({ cell, caption: cell.caption ?? cell.text ?? '' }));
}

/** Ids of the drawings that the title block of a sheet shows. */
export function titleDrawings(project: Pick<ProjectFacts, 'titleBlocks'>, sheet: Pick<Sheet, 'titleBlock'>): string[] {
  const template = sheet.titleBlock && templateOf(project, sheet.titleBlock);
  return (template?.cells ?? []).flatMap(({ kind, drawing }) => (kind === 'drawing' && drawing ? [drawing] : []));
}
