import { nameOf, sheetsOf, sheetsOfProject, defineCheck } from '../finding';

/** Sheets that no package holds. */
export const unusedSheets = defineCheck(
  {
    'project.unused-sheets': ['note', 'sheets that no package holds'],
  },
  (input) => {
    if (!input.packages) return [];
    const used = new Set([input.package, ...input.packages].flatMap(({ order }) => order));
    const unused = sheetsOfProject(input).filter(({ id }) => !used.has(id));
    if (unused.length === 0 || sheetsOf(input).length === 0) return [];
    const names = unused.slice(0, 8).map(nameOf).join(', ');
    const more = unused.length > 8 ? ` and ${unused.length - 8} more` : '';
    const sentence = `No package contains ${names}${more}; ${unused.length === 1 ? 'add it where it belongs' : 'add them where they belong'}.`;
    return [{ code: 'project.unused-sheets', sentence, place: {} }];
  },
);
