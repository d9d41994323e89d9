import { contextOf, type SheetContext } from '../sheet/context';
import type { Sheet } from '../sheet/model';
import type { PlanInput } from './plan';
import { printedStamps } from './stamps';

/** What a page shows of the package that it is published with: its place, marks and stamps. `input` is resolved. */
export function contextInPackage(sheet: Sheet, input: PlanInput): SheetContext {
  const { project, package: pack, sheets, groups, runDate, runId } = input;
  const group = groups.find(({ id }) => id === sheet.group);
  const page = pack.order.indexOf(sheet.id) + 1;
  const naming = {
    project,
    package: pack,
    sheet,
    runDate,
    page,
    pages: pack.order.length,
    ...(group && { group }),
    ...(runId && { runId }),
  };
  const stamps = printedStamps(pack, naming);
  const place = page > 0 ? { page, pages: pack.order.length } : undefined;
  return { ...contextOf(project, sheet, sheets, place), ...(stamps.length > 0 && { stamps }) };
}
