import { nameOf, type Check, type Finding } from './finding';

/** A reference mark on a sheet refers to a sheet or view that is not there any more. */
export const danglingMarks: Check = ({ sheets, package: pack }) =>
  sheets
    .filter(({ id }) => pack.order.includes(id))
    .flatMap((sheet): Finding[] =>
      (sheet.notes ?? []).flatMap(({ kind, refers }): Finding[] => {
        if (kind !== 'mark') return [];
        const target = sheets.find(({ id }) => id === refers?.sheet);
        if (target && (refers?.view === undefined || target.views.some(({ id }) => id === refers.view))) return [];
        const about = nameOf(sheet);
        const gone = !refers
          ? 'nothing yet'
          : target
            ? `a view of ${target.number} that is not there`
            : 'a sheet that is not there';
        const sentence = `A mark on ${about} refers to ${gone}; choose what it refers to on the sheet.`;
        return [{ code: 'mark.dangling', severity: 'warning', sentence, place: { sheet: about }, about: sheet.id }];
      }),
    );
