import { drawingsShown } from '../../sheet/model';
import { nameOf, forEachSheet, defineCheck } from '../finding';

/** A drawing that the sheet shows came in after the day of its revision. */
export const drawingsNewerThanRevision = defineCheck(
  {
    'revision.old': ['warning', 'a revision older than the latest version of a drawing on the sheet'],
  },
  forEachSheet((sheet, { latest }) => {
    const { revision } = sheet;
    if (!revision) return [];
    const newer = drawingsShown(sheet).flatMap((id) => {
      const drawing = latest?.get(id);
      return drawing?.at !== undefined && drawing.version > 1 && drawing.at > revision.date ? [drawing] : [];
    });
    return newer.map(({ name, at }) => ({
      code: 'revision.old',
      sentence: `${nameOf(sheet)} is revision ${revision.index} of ${revision.date}, but ${name} changed on ${at}; raise the revision if that is issued.`,
    }));
  }),
);
