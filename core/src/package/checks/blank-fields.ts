import { isOfOne, nameOf, type Check } from './finding';

/** A field that the naming rule needs is blank, or does not exist. */
export const blankFields: Check = (input, plan) => {
  const called = new Map(input.sheets.map((sheet) => [sheet.id, nameOf(sheet)]));
  return plan.files.flatMap((file) => {
    const about = isOfOne(file) ? called.get(file.sheets[0]!)! : `${file.sheets.length} sheets`;
    const place = isOfOne(file) ? { sheet: about } : {};
    const which = isOfOne(file) ? { about: file.sheets[0]! } : {};
    return [
      ...file.unknown.map((field) => ({
        code: 'name.unknown-field',
        severity: 'stop' as const,
        sentence: `The naming rule asks for [${field}], which does not exist; take it out or correct it.`,
        place: {},
      })),
      ...file.blank.map((field) => ({
        code: 'name.blank-field',
        severity: 'stop' as const,
        sentence: `[${field}] is blank for ${about}; fill it in, or make it optional as (? [${field}]).`,
        place,
        ...which,
      })),
    ];
  });
};
