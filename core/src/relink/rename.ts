import { legalName } from '../naming/legal';

/** How the names of files change: each step on what the one before left; the extension stays. */
export interface RenameRule {
  /** A text and its replacement, everywhere in the name. */
  find?: string;
  replace?: string;
  /** The number of characters removed from the front. */
  removeFirst?: number;
  prefix?: string;
  /** What replaces spaces. */
  spaces?: string;
  letters?: 'upper' | 'lower';
}

/** The new path of a file: folders stay, the name is as the rule makes it, and legal on every system. */
export function renamed(path: string, rule: RenameRule): string {
  const at = path.lastIndexOf('/') + 1;
  const [folder, name] = [path.slice(0, at), path.slice(at)];
  const dot = name.lastIndexOf('.');
  const [base, extension] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, ''];
  const { find, replace = '', removeFirst = 0, prefix = '', spaces, letters } = rule;
  let made = find ? base.replaceAll(find, replace) : base;
  made = prefix + [...made].slice(removeFirst).join('');
  if (spaces !== undefined) made = made.replace(/\s+/g, spaces);
  if (letters) made = letters === 'upper' ? made.toUpperCase() : made.toLowerCase();
  return folder + (legalName(made, extension) || name);
}

/** True where a rule changes nothing. */
export function isIdle({ find, removeFirst, prefix, spaces, letters }: RenameRule): boolean {
  return !find && !removeFirst && !prefix && spaces === undefined && letters === undefined;
}
