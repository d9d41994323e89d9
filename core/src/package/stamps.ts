import { applyRule, parseRule } from '../naming/rule';
import type { PrintedStamp } from '../sheet/stamps';
import { fieldsOf, type NamingContext } from './fields';
import type { SheetPackage } from './model';

/** In place of the id of a run that has not started yet. */
const UNKNOWN_RUN = '········';

/** The stamps of a package as they are printed on one page, then its own; those of which nothing is left are not. */
export function printedStamps(
  { stamps = [], pages }: Pick<SheetPackage, 'stamps' | 'pages'>,
  context: NamingContext,
): PrintedStamp[] {
  const own = pages?.[context.sheet?.id ?? '']?.stamps ?? [];
  return [...stamps, ...own].flatMap((stamp) => {
    const rule = parseRule(stamp.text);
    // Names cannot use it: they are fixed before the run begins.
    const fields = { ...fieldsOf(context), 'run.id': context.runId ?? UNKNOWN_RUN };
    const text = rule.ok ? applyRule(rule.value, fields).name.trim() : stamp.text;
    return text ? [{ ...stamp, text }] : [];
  });
}
