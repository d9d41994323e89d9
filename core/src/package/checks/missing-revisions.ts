import { nameOf, ofEachSheet, sheetsOf, type Check } from './finding';

/** Other sheets of the package have a revision, this one has none. */
export const missingRevisions: Check = (input, plan) => {
  const revised = sheetsOf(input).some(({ revision }) => revision);
  if (!revised) return [];
  return ofEachSheet((sheet) => [
    sheet.revision
      ? undefined
      : {
          code: 'revision.missing',
          severity: 'warning',
          sentence: `${nameOf(sheet)} has no revision, while others of the package have; give it one on the sheet.`,
        },
  ])(input, plan);
};
