import { collisionKey } from '../../naming/legal';
import type { PlannedFile } from '../plan';
import { holdsOneSheet, nameOf, defineCheck, type FoundProblem } from '../finding';

/** Two files would get names that are the same on a system that ignores case, or one gets no name at all. */
export const nameClashes = defineCheck(
  {
    'name.empty': ['stop', 'a name of which nothing legal is left'],
    'name.clash': ['stop', 'two files of one name, letter case and Unicode composition aside'],
    'name.folders': ['warning', 'two folders whose names differ in letter case or Unicode composition only'],
  },
  (input, plan) => {
    const called = new Map(input.sheets.map((sheet) => [sheet.id, nameOf(sheet)]));
    const about = (file: PlannedFile): string =>
      holdsOneSheet(file) ? called.get(file.sheets[0]!)! : `${file.sheets.length} sheets`;
    const taken = new Map<string, string>();
    const folders = new Map<string, string>();
    return plan.files.flatMap((file): FoundProblem<'name.empty' | 'name.clash' | 'name.folders'>[] => {
      const place = holdsOneSheet(file) ? { sheet: about(file) } : {};
      if (file.path === '') {
        const sentence = `The naming rule leaves no name for ${about(file)}; add a field that has a value.`;
        return [{ code: 'name.empty', sentence, place }];
      }
      const key = collisionKey(file.path);
      const other = taken.get(key);
      taken.set(key, other ?? about(file));
      if (other === undefined) return foldersAlike(file.path, folders);
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

/** Folders on the way to a file that some systems take for ones that were there before, under another spelling. */
function foldersAlike(path: string, known: Map<string, string>): FoundProblem<'name.folders'>[] {
  const parts = path.split('/').slice(0, -1);
  return parts.flatMap((_, i) => {
    const folder = parts.slice(0, i + 1).join('/');
    const key = collisionKey(folder);
    const before = known.get(key);
    known.set(key, before ?? folder);
    if (before === undefined || before === folder) return [];
    const sentence = `The folders "${before}" and "${folder}" are one on some systems and two on others; spell the group or field behind them in one way.`;
    return [{ code: 'name.folders', sentence, place: {} }];
  });
}
