import { nameOf, forEachPage, sheetsOf, sheetsOfProject, defineCheck } from '../finding';

/** A text names a sheet that is not in the package, or, in the form of a number that sheets have, one that is not at all. */
export const danglingTexts = defineCheck(
  {
    'text.outside': ['note', 'a text that names a sheet which is not in the package'],
    'text.dangling': ['warning', 'a text that names a sheet which does not exist'],
  },
  (input, plan) => {
    const inside = new Set(sheetsOf(input).map(({ number }) => number.toLowerCase()));
    const all = sheetsOfProject(input).map(({ number }) => number);
    const project = new Set(all.map((number) => number.toLowerCase()));
    const forms = new Set(all.map(formOf).filter(Boolean));
    return forEachPage(({ names }, sheet) => {
      const outside = names.filter((name) => project.has(name.toLowerCase()) && !inside.has(name.toLowerCase()));
      const nowhere = names.filter((name) => !project.has(name.toLowerCase()) && forms.has(formOf(name)));
      return [
        outside.length
          ? {
              code: 'text.outside',
              sentence: `${nameOf(sheet)} refers to ${listed(outside)}, not in this package. Add what is missing, or accept the missing ${outside.length === 1 ? 'link' : 'links'}.`,
            }
          : undefined,
        nowhere.length
          ? {
              code: 'text.dangling',
              sentence: `${nameOf(sheet)} refers to ${listed(nowhere)}, but no such sheet exists; correct the text or add the sheet.`,
            }
          : undefined,
      ];
    })(input, plan);
  },
);

/** Letters of a number as they are, its figures as 9: have one form. */
function formOf(number: string): string {
  return /\d/.test(number) && /\p{L}/u.test(number) ? number.toUpperCase().replace(/\d/g, '9') : '';
}

function listed(names: readonly string[]): string {
  const unique = [...new Set(names)];
  return unique.slice(0, 8).join(', ') + (unique.length > 8 ? ` and ${unique.length - 8} more` : '');
}
