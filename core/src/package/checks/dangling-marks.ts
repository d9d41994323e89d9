import { nameOf, defineCheck, type FoundProblem } from '../finding';

/** A reference mark on a sheet refers to a sheet or view that is not there any more. */
export const danglingMarks = defineCheck(
  {
    'mark.dangling': ['warning', 'a reference mark whose sheet or view is not there'],
  },
  ({ sheets, package: pack }) => {
    const held = new Set(pack.order);
    return sheets
      .filter(({ id }) => held.has(id))
      .flatMap((sheet): FoundProblem<'mark.dangling'>[] =>
        (sheet.notes ?? []).flatMap(({ kind, refers }): FoundProblem<'mark.dangling'>[] => {
          if (kind !== 'mark') return [];
          const target = sheets.find(({ id }) => id === refers?.sheet);
          if (target && (refers?.view === undefined || target.views.some(({ id }) => id === refers.view))) return [];
          const about = nameOf(sheet);
          const gone = !refers
            ? 'nothing yet'
            : target
              ? `a view of ${target.number} that does not exist`
              : 'a sheet that does not exist';
          const sentence = `A mark on ${about} refers to ${gone}; choose what it refers to on the sheet.`;
          return [{ code: 'mark.dangling', sentence, place: { sheet: about }, about: sheet.id }];
        }),
      );
  },
);
