import { defineCheck, type FoundProblem } from '../finding';

type PageCode = 'package.missing-sheet' | 'package.doubled-sheet' | 'package.doubled-number';

/** The package is empty, or has sheets that were removed, are in it twice, or share a number. */
export const sheetsPresent = defineCheck(
  {
    'package.empty': ['stop', 'a package without sheets'],
    'package.missing-sheet': ['stop', 'a sheet that is not in the project any more'],
    'package.doubled-sheet': ['stop', 'a sheet that is in the package twice'],
    'package.doubled-number': ['warning', 'two sheets with one number'],
  },
  ({ package: pack, sheets }) => {
    if (pack.order.length === 0) {
      const sentence = `${pack.name} has no sheets; add some.`;
      return [{ code: 'package.empty', sentence, place: {} }];
    }
    const byId = new Map(sheets.map((sheet) => [sheet.id, sheet]));
    const seen = new Map<string, string>();
    return pack.order.flatMap((id): FoundProblem<PageCode>[] => {
      const sheet = byId.get(id);
      if (!sheet) {
        const sentence = `${pack.name} contains a sheet "${id}" that is not in the project; remove it.`;
        const fix = { words: 'Remove it', takeOut: id, keepFirst: false };
        return [{ code: 'package.missing-sheet', sentence, place: { sheet: id }, fix }];
      }
      const key = sheet.number.toLowerCase();
      const other = seen.get(key);
      seen.set(key, id);
      if (other === undefined || key === '') return [];
      const twice = other === id;
      const sentence = twice
        ? `Sheet ${sheet.number} is in the package twice; remove one.`
        : `Two sheets have the number ${sheet.number}; renumber one of them.`;
      const code = twice ? 'package.doubled-sheet' : 'package.doubled-number';
      const fix = { words: 'Remove one', takeOut: id, keepFirst: true };
      return [
        {
          ...{ code, sentence, place: { sheet: sheet.number }, about: id },
          severity: twice ? 'stop' : 'warning',
          ...(twice && { fix }),
        },
      ];
    });
  },
);
