import type { Sheet } from '../../sheet/model';
import { noteStylesOf, letteringOf } from '../../sheet/notes/model';
import { templateOf } from '../../sheet/title/fields';
import { hasTypeface } from '../../text/own-typefaces';
import { defineCheck, nameOf, sheetsOf, type FoundProblem } from '../finding';
import type { PlanInput } from '../plan';

/** Texts of sheets whose typeface the project does not have: they are set in the sans. */
export const missingTypefaces = defineCheck(
  {
    'text.typeface': ['warning', 'a note or a title block in a typeface that the project does not have'],
  },
  (input) =>
    sheetsOf(input).flatMap((sheet): FoundProblem<'text.typeface'>[] => {
      const missing = new Set(typefacesOn(sheet, input).filter((name) => !hasTypeface(input.project, name)));
      return [...missing].map((name) => {
        const about = nameOf(sheet);
        const sentence = `${about} has texts in the typeface "${name}", which this project does not have; they are set in the built-in sans. Add the typeface in Settings, or choose another.`;
        return { code: 'text.typeface', sentence, place: { sheet: about }, about: sheet.id };
      });
    }),
);

function typefacesOn({ notes = [], titleBlock }: Sheet, { project }: PlanInput): string[] {
  const styles = noteStylesOf(project);
  const cells = (titleBlock && templateOf(project, titleBlock)?.cells) ?? [];
  return [...notes.map((note) => letteringOf(note, styles).font), ...cells.flatMap(({ font }) => font ?? [])];
}
