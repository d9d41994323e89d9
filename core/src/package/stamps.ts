import { applyRule, parseRule } from '../naming/rule';
import { contextOf, type SheetContext } from '../sheet/context';
import type { Sheet } from '../sheet/model';
import type { PrintedStamp } from '../sheet/stamps';
import { fieldsOf, type NamingContext } from './fields';
import type { SheetPackage } from './model';
import type { PlanInput } from './plan';

/** What a page shows of the package that it is published with: its place, marks and stamps. `input` is resolved. */
export function contextInPackage(sheet: Sheet, input: PlanInput): SheetContext {
  const { project, package: pack, sheets, groups, runDate } = input;
  const group = groups.find(({ id }) => id === sheet.group);
  const page = pack.order.indexOf(sheet.id) + 1;
  const naming = { project, package: pack, sheet, runDate, page, pages: pack.order.length, ...(group && { group }) };
  const stamps = printedStamps(pack, naming);
  return { ...contextOf(project, sheet, sheets, pack.order), ...(stamps.length > 0 && { stamps }) };
}

/** The stamps of a package as they are printed on one page; those of which nothing is left are not. */
export function printedStamps({ stamps = [] }: Pick<SheetPackage, 'stamps'>, context: NamingContext): PrintedStamp[] {
  return stamps.flatMap((stamp) => {
    const rule = parseRule(stamp.text);
    const text = rule.ok ? applyRule(rule.value, fieldsOf(context)).name.trim() : stamp.text;
    return text ? [{ ...stamp, text }] : [];
  });
}
