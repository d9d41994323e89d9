import { applyRule, parseRule } from '../naming/rule';
import type { PrintedStamp } from '../sheet/stamps';
import { fieldsOf, type NamingContext } from './fields';
import type { SheetPackage } from './model';

/** The stamps of a package as they are printed on one page; those of which nothing is left are not. */
export function printedStamps({ stamps = [] }: Pick<SheetPackage, 'stamps'>, context: NamingContext): PrintedStamp[] {
  return stamps.flatMap((stamp) => {
    const rule = parseRule(stamp.text);
    const text = rule.ok ? applyRule(rule.value, fieldsOf(context)).name.trim() : stamp.text;
    return text ? [{ ...stamp, text }] : [];
  });
}
