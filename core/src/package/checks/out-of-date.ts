import { outOfDate } from '../../sheet/model';
import type { Check } from './finding';

/** A view is held at an older version of its drawing than the latest. */
export const outOfDateViews: Check = ({ sheets, package: pack, latest }) =>
  sheets
    .filter(({ id }) => pack.order.includes(id))
    .flatMap((sheet) =>
      outOfDate(sheet, (id) => latest?.get(id)?.version).map(({ drawing, held, latest: newest }) => ({
        code: 'view.out-of-date',
        severity: 'warning' as const,
        sentence: `${sheet.number || sheet.id} shows version ${held} of ${latest!.get(drawing)!.name}, which is at version ${newest}; let it follow the drawing if that is wanted.`,
        place: { sheet: sheet.number || sheet.id },
      })),
    );
