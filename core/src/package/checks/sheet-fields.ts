import { nameOf, defineCheck, type FoundProblem } from '../finding';

/** A sheet field of the project's own that must have a value has none. */
export const sheetFields = defineCheck(
  {
    'sheet.field-blank': ['warning', "a sheet field of the project's own that must have a value and has none"],
  },
  ({ project, sheets, package: pack }) => {
    const held = new Set(pack.order);
    return sheets
      .filter(({ id }) => held.has(id))
      .flatMap((sheet): FoundProblem<'sheet.field-blank'>[] => {
        const blank = (project.sheetFields ?? [])
          .filter(({ name, required }) => required && !sheet.fields?.[name]?.trim())
          .map(({ name, caption }) => ({ field: `sheet.${name}`, caption }));
        const [first] = blank;
        if (!first) return [];
        const about = nameOf(sheet);
        const sentence = `${about} has no ${blank.map(({ caption }) => caption).join(', ')}; fill it in on the sheet.`;
        return [{ code: 'sheet.field-blank', sentence, place: { sheet: about }, about: sheet.id, field: first.field }];
      });
  },
);
