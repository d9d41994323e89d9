import type { Check } from './finding';

/** The package is empty, or holds sheets that are gone, stand in it twice, or share a number. */
export const sheetsPresent: Check = ({ package: pack, sheets }) => {
  if (pack.order.length === 0) {
    const sentence = `${pack.name} holds no sheets; add some to it.`;
    return [{ code: 'package.empty', severity: 'stop', sentence, place: {} }];
  }
  const byId = new Map(sheets.map((sheet) => [sheet.id, sheet]));
  const seen = new Map<string, string>();
  return pack.order.flatMap((id) => {
    const sheet = byId.get(id);
    if (!sheet) {
      const sentence = `${pack.name} holds a sheet "${id}" that is not in the project; take it out.`;
      return [{ code: 'package.missing-sheet', severity: 'stop' as const, sentence, place: { sheet: id } }];
    }
    const key = sheet.number.toLowerCase();
    const other = seen.get(key);
    seen.set(key, id);
    if (other === undefined || key === '') return [];
    const twice = other === id;
    const sentence = twice
      ? `Sheet ${sheet.number} stands in the package twice; take one out.`
      : `Two sheets have the number ${sheet.number}; renumber one of them.`;
    const code = twice ? 'package.doubled-sheet' : 'package.doubled-number';
    return [
      { code, severity: twice ? ('stop' as const) : ('warning' as const), sentence, place: { sheet: sheet.number } },
    ];
  });
};
