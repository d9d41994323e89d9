/** What tags of title blocks are usually called (common practice), most special first, and the field that they mean. */
const MEANINGS: readonly [RegExp, string][] = [
  [/PROJ.*(NO|NUM|NR)|JOB/, 'project.number'],
  [/PROJ/, 'project.name'],
  [/CLIENT|EMPLOYER/, 'project.client'],
  [/REV.*DATE|DATE|DATUM/, 'sheet.date'],
  [/REV|INDEX/, 'sheet.revision'],
  [/SCALE|MASSSTAB/, 'sheet.scale'],
  [/PAPER|FORMAT|SIZE/, 'sheet.paper'],
  [/PAGES|SHEETS|TOTAL/, 'pages'],
  [/PAGE|SHEETOF/, 'page'],
  [/TITLE|NAME/, 'sheet.title'],
  [/SHEET|DRAWING|DWG|NUMBER|NO$/, 'sheet.number'],
];

/** The field that a tag of a title block means; undefined where its name says nothing, or only what is in `taken`. */
export function meaningOf(tag: string, taken: ReadonlySet<string> = new Set()): string | undefined {
  const plain = tag.toUpperCase().replace(/[^A-Z]/g, '');
  return MEANINGS.find(([pattern, field]) => pattern.test(plain) && !taken.has(field))?.[1];
}
