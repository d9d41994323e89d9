import { sameValue } from '../../same';
import { sourcesShown, type Sheet } from '../../sheet/model';
import { defineCheck, forEachSheet, nameOf } from '../finding';

/** A sheet that differs from what was issued of it, while its revision is still the same. */
export const unraisedRevisions = defineCheck(
  {
    'revision.unchanged': ['warning', 'a sheet that changed since its last issue and has the same revision'],
  },
  forEachSheet((sheet, { issued, latest }) => {
    const was = issued?.get(sheet.id);
    const index = sheet.revision?.index ?? '';
    if (!was || was.revision !== index) return [];
    const changed = sourcesShown(sheet).flatMap(({ drawing, held }) => {
      const [then, now] = [was.contents[drawing], latest?.get(drawing)];
      return held === undefined && then !== undefined && now?.hash !== undefined && now.hash !== then ? [now.name] : [];
    });
    if (changed.length === 0 && sameValue(essence(sheet), essence(was.sheet))) return [];
    const what = changed.length > 0 ? `${changed.join(', ')} on ${nameOf(sheet)}` : nameOf(sheet);
    const still = index ? `the sheet is still revision ${index}` : 'the sheet has no revision';
    const sentence = `${what} changed since issue ${was.issue}, but ${still}; raise the revision before it is issued again.`;
    return [{ code: 'revision.unchanged', sentence, field: 'sheet.revision' }];
  }),
);

/** What of a sheet makes it another one: not its revisions, and not whether its views are held. */
function essence({ revision: _, revisions: __, views, from, ...sheet }: Sheet): unknown {
  const live = <T extends { held?: number }>({ held: ___, ...view }: T): Omit<T, 'held'> => view;
  return { ...sheet, views: views.map(live), ...(from && { from: live(from) }) };
}
