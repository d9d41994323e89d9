import { holdsOneSheet, nameOf, defineCheck } from '../finding';

/** A field that the naming rule needs is blank, or does not exist. */
export const blankFields = defineCheck(
  {
    'name.unknown-field': ['stop', 'a field that does not exist'],
    'name.blank-field': ['stop', 'a field that the rule needs is blank, with its sheet'],
  },
  (input, plan) => {
    const called = new Map(input.sheets.map((sheet) => [sheet.id, nameOf(sheet)]));
    return plan.files.flatMap((file) => {
      const about = holdsOneSheet(file) ? called.get(file.sheets[0]!)! : `${file.sheets.length} sheets`;
      const place = holdsOneSheet(file) ? { sheet: about } : {};
      const which = holdsOneSheet(file) ? { about: file.sheets[0]! } : {};
      return [
        ...file.unknown.map((field) => ({
          code: 'name.unknown-field' as const,
          sentence: `The naming rule asks for [${field}], which does not exist; remove or correct it.`,
          place: {},
        })),
        ...file.blank.map((field) => ({
          code: 'name.blank-field' as const,
          sentence: `[${field}] is blank for ${about}; fill it in, or make it optional as (? [${field}]).`,
          place,
          ...which,
          ...(field.startsWith('sheet.') && { field }),
        })),
      ];
    });
  },
);
