import { collisionKey } from '../../naming/legal';
import type { PlannedFile } from '../plan';
import { holdsOneSheet, nameOf, defineCheck, type FoundProblem } from '../finding';

/** Two files would get names that are the same on a system that ignores case, or one gets no name at all. */
export const nameClashes = defineCheck(
  {
    'name.empty': ['stop', 'a name of which nothing legal is left'],
    'name.clash': ['stop', 'two files of one name, letter case and Unicode composition aside'],
  },
  (input, plan) => {
    const called = new Map(input.sheets.map((sheet) => [sheet.id, nameOf(sheet)]));
    const about = (file: PlannedFile): string =>
      holdsOneSheet(file) ? called.get(file.sheets[0]!)! : `${file.sheets.length} sheets`;
    const taken = new Map<string, string>();
    return plan.files.flatMap((file): FoundProblem<'name.empty' | 'name.clash'>[] => {
      const place = holdsOneSheet(file) ? { sheet: about(file) } : {};
      if (file.path === '') {
        const sentence = `The naming rule leaves no name for ${about(file)}; add a field that has a value.`;
        return [{ code: 'name.empty', sentence, place }];
      }
      const key = collisionKey(file.path);
      const other = taken.get(key);
      taken.set(key, other ?? about(file));
      if (other === undefined) return [];
      const sentence = `${about(file)} and ${other} would both be written as "${file.path}"; add [sheet.number] or [page] to the rule.`;
      const { names, bundling } = input.package;
      const single = bundling === 'sheet' || file.format !== undefined;
      const part = single ? 'file' : 'bundle';
      const distinct = single ? `[page > pad 3] ${names.file}` : `${names.bundle} [group.name]`;
      const fix = { words: `Use ${distinct}`, names: { ...names, [part]: distinct } };
      const which = holdsOneSheet(file) ? { about: file.sheets[0]! } : {};
      return [{ code: 'name.clash', sentence, place, ...which, fix }];
    });
  },
);
