import { clashKey } from '../../naming/legal';
import type { PlannedFile } from '../plan';
import { isOfOne, nameOf, type Check } from './finding';

/** Two files would get names that are the same on a system that ignores case, or one gets no name at all. */
export const nameClashes: Check = (input, plan) => {
  const called = new Map(input.sheets.map((sheet) => [sheet.id, nameOf(sheet)]));
  const about = (file: PlannedFile): string =>
    isOfOne(file) ? called.get(file.sheets[0]!)! : `${file.sheets.length} sheets`;
  const taken = new Map<string, string>();
  return plan.files.flatMap((file) => {
    const place = isOfOne(file) ? { sheet: about(file) } : {};
    if (file.path === '') {
      const sentence = `The naming rule leaves no name for ${about(file)}; add a field that has a value.`;
      return [{ code: 'name.empty', severity: 'stop' as const, sentence, place }];
    }
    const key = clashKey(file.path);
    const other = taken.get(key);
    taken.set(key, other ?? about(file));
    if (other === undefined) return [];
    const sentence = `${about(file)} and ${other} would both be written as "${file.path}"; add [sheet.number] or [page] to the rule.`;
    const { names, bundling } = input.package;
    const single = bundling === 'sheet' || file.format !== undefined;
    const part = single ? 'file' : 'bundle';
    const distinct = single ? `[page > pad 3] ${names.file}` : `${names.bundle} [group.name]`;
    const fix = { words: `Use ${distinct}`, names: { ...names, [part]: distinct } };
    const which = isOfOne(file) ? { about: file.sheets[0]! } : {};
    return [{ code: 'name.clash', severity: 'stop' as const, sentence, place, ...which, fix }];
  });
};
