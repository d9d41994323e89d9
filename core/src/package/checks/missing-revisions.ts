import { nameOf, forEachSheet, sheetsOf, defineCheck } from '../finding';

/** Other sheets of the package have a revision, this one has none. */
export const missingRevisions = defineCheck(
  {
    'revision.missing': ['warning', 'a sheet without a revision where others have one'],
  },
  (input, plan) => {
    const revised = sheetsOf(input).some(({ revision }) => revision);
    if (!revised) return [];
    return forEachSheet((sheet) => [
      sheet.revision
        ? undefined
        : {
            code: 'revision.missing',
            field: 'sheet.revision',
            sentence: `${nameOf(sheet)} has no revision, but other sheets of the package do; add one on the sheet.`,
          },
    ])(input, plan);
  },
);
