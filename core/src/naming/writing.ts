import { STEPS } from './steps';

/** A stretch of a rule as an editor shows it; all of them together are the rule. */
export interface RuleStretch {
  kind: 'text' | 'field' | 'bracket';
  text: string;
}

/** A rule as text, fields and the brackets of optional parts. Wrong rules too: what is never closed is text. */
export function stretchesOf(source: string): RuleStretch[] {
  const found: RuleStretch[] = [];
  let optional = 0;
  // An escaped character, a field (which an escaped bracket does not end), or the brackets of an optional part.
  for (const [piece] of source.matchAll(/\\[^]?|\[(?:\\[^]|[^[\]\\])*\]|\(\?|[^]/g)) {
    if (piece === '(?') optional++;
    const closes = piece === ')' && optional > 0;
    if (closes) optional--;
    const kind = piece === '(?' || closes ? 'bracket' : /^\[.+/.test(piece) ? 'field' : 'text';
    const last = found.at(-1);
    if (kind === 'text' && last?.kind === 'text') last.text += piece;
    else found.push({ kind, text: piece });
  }
  return found;
}

/** A completion where somebody is writing: it replaces the rule's characters from `from` to `to`. */
export interface Completion {
  from: number;
  to: number;
  options: { text: string; help: string }[];
}

/** What can follow at a place of a rule: fields after an open bracket, steps after `>`. Undefined outside of both. */
export function completionAt(
  source: string,
  place: number,
  fields: Readonly<Record<string, string>>,
): Completion | undefined {
  const open = /\[([^[\]>]*)((?:>[^[\]>]*)*)$/.exec(source.slice(0, place));
  if (!open || source[open.index - 1] === '\\') return undefined;
  const behind = open[2]!;
  const typed = (behind === '' ? open[1]! : behind.slice(behind.lastIndexOf('>') + 1)).trimStart();
  const known: Readonly<Record<string, string>> =
    behind === '' ? fields : Object.fromEntries(Object.entries(STEPS).map(([name, { help }]) => [name, help]));
  // A name that is complete needs no completion, even where longer ones begin with it.
  if (/\s/.test(typed) || typed in known) return undefined;
  const options = Object.entries(known)
    .filter(([name]) => name.toLowerCase().includes(typed.toLowerCase()))
    .map(([text, help]) => ({ text, help }));
  return options.length ? { from: place - typed.length, to: place, options } : undefined;
}
