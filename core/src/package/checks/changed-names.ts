import { FORMATS } from '../formats';
import { holdsOneSheet, nameOf, defineCheck } from '../finding';

/** A name held characters that some system does not allow, or was too long, and was changed. Outer blanks do not count. */
export const changedNames = defineCheck(
  {
    'name.changed': ['note', 'a name whose illegal characters were replaced, or that was cut'],
  },
  (input, plan) => {
    const called = new Map(input.sheets.map((sheet) => [sheet.id, nameOf(sheet)]));
    return plan.files.flatMap((file) => {
      const name = file.path.slice(file.path.lastIndexOf('/') + 1);
      // The same name in several formats is reported once.
      const written = name.slice(0, name.length - FORMATS[file.format ?? 'pdf'].extension.length);
      // A name with a blank field is reported as such; what else is wrong with it shows once it is filled in.
      if (file.path === '' || file.blank.length > 0 || written === file.wanted.trim()) return [];
      const sentence = `"${file.wanted}" is not allowed as a file name on every system; "${written}" is used instead.`;
      const place = holdsOneSheet(file) ? { sheet: called.get(file.sheets[0]!)! } : {};
      return [{ code: 'name.changed', sentence, place }];
    });
  },
);
