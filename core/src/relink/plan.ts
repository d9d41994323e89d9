import Papa from 'papaparse';
import { collisionKey } from '../naming/legal';
import { joinedPath, relativePath } from '../naming/paths';
import { isIdle, renamed, type RenameRule } from './rename';

/** A file of a set with the names that its links lead to, as they are written. */
export interface LinkedFile {
  /** Folders and name from the folder of the set, with slashes. */
  path: string;
  /** Each target once, relative to the file's own folder. */
  targets: string[];
}

export interface RelinkWish {
  /** How names changed already, or are to change. */
  rule: RenameRule;
  /** Old names and what they are called now; before the rule. */
  table: readonly (readonly [old: string, now: string])[];
  /** True where the files are to be renamed as well; false where that was done before and links alone are behind. */
  rename: boolean;
}

/** What becomes of a link. */
export interface PlannedLink {
  file: string;
  target: string;
  /**
   * `works` as it is; `repaired` by the table or the rule; `suggested` by a number of a sheet in both names; `dangling`:
   * nothing is found for it.
   */
  state: 'works' | 'repaired' | 'suggested' | 'dangling';
  /** What it is to say; absent where it stays as it is. */
  to?: string;
}

export interface RelinkPlan {
  files: { from: string; to: string }[];
  links: PlannedLink[];
  /** New names that two files would have. */
  clashes: string[];
}

/** Works out where every link of a set should lead, and what its files are to be called. */
export function relinkPlan(files: readonly LinkedFile[], { rule, table, rename }: RelinkWish): RelinkPlan {
  const tabled = new Map(table.map(([old, now]) => [collisionKey(nameIn(old)), nameIn(now)]));
  const called = (path: string): string => {
    const name = tabled.get(collisionKey(nameIn(path)));
    return name === undefined ? renamed(path, rule) : path.slice(0, path.lastIndexOf('/') + 1) + name;
  };
  const nothing = isIdle(rule) && table.length === 0;
  const moved = files.map(({ path }) => ({ from: path, to: rename && !nothing ? called(path) : path }));
  const there = new Map(moved.map(({ from, to }) => [collisionKey(from), to]));
  const names = unique(moved.map(({ from }) => [collisionKey(nameIn(from)), from]));
  const numbers = unique(
    moved.flatMap(({ from }) => numbersIn(from).map((number): [string, string] => [number, from])),
  );
  const links = files.flatMap(({ path, targets }, i) => {
    const own = moved[i]!.to;
    return targets.map((target): PlannedLink => {
      const wanted = joinedPath(path, target);
      const found = (at: string, state: PlannedLink['state']): PlannedLink => {
        const to = relativePath(own, at);
        return { file: path, target, state, ...(to !== target && { to }) };
      };
      const same = there.get(collisionKey(wanted));
      if (same !== undefined) return found(same, 'works');
      // Renamed before: the link says the old name, and the file has the new one.
      const now = there.get(collisionKey(called(wanted)));
      if (now !== undefined) return found(now, 'repaired');
      // In another folder than the link says, under its name or its new one.
      const elsewhere = names.get(collisionKey(nameIn(wanted))) ?? names.get(collisionKey(nameIn(called(wanted))));
      if (elsewhere !== undefined) return found(there.get(collisionKey(elsewhere))!, 'repaired');
      const guess = numbersIn(wanted).flatMap((number) => numbers.get(number) ?? [])[0];
      if (guess !== undefined) return found(there.get(collisionKey(guess))!, 'suggested');
      return { file: path, target, state: 'dangling' };
    });
  });
  const seen = new Set<string>();
  const clashes = moved.flatMap(({ to }) => {
    const key = collisionKey(to);
    if (seen.has(key)) return [to];
    seen.add(key);
    return [];
  });
  return { files: moved, links, clashes };
}

/** A table of old and new names from CSV; a heading and rows that do not have both are left out. */
export function readRenameTable(csv: string): [old: string, now: string][] {
  const { data } = Papa.parse<string[]>(csv.trim(), { skipEmptyLines: 'greedy' });
  return data.flatMap(([old = '', now = '']): [string, string][] =>
    /\.pdf$/i.test(old.trim()) && now.trim()
      ? [[old.trim(), /\.pdf$/i.test(now) ? now.trim() : `${now.trim()}.pdf`]]
      : [],
  );
}

/** What leads to one path only; what leads to several leads nowhere. */
function unique(entries: readonly (readonly [string, string])[]): Map<string, string> {
  const found = new Map<string, string | undefined>();
  for (const [key, path] of entries) found.set(key, found.has(key) && found.get(key) !== path ? undefined : path);
  return new Map([...found].flatMap(([key, path]) => (path === undefined ? [] : [[key, path] as const])));
}

/** Letters and figures together in a name, such as A-501, signs between them aside: numbers of sheets are among them. */
function numbersIn(path: string): string[] {
  const all = nameIn(path)
    .replace(/\.pdf$/i, '')
    .match(/\p{L}{1,4}[-_. ]?\d{1,4}/gu);
  return (all ?? []).map((one) => one.replace(/[-_. ]/g, '').toUpperCase());
}

function nameIn(path: string): string {
  return path.slice(path.lastIndexOf('/') + 1);
}
