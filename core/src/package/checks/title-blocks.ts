import { blankCells, templateOf } from '../../sheet/title/fields';
import { nameOf, defineCheck, type FoundProblem } from '../finding';

/** A required cell of a sheet's title block has no value, or its template is not there. */
export const titleBlocks = defineCheck(
  {
    'title.template': ['stop', 'a title-block template that is not there'],
    'title.blank': ['warning', 'a required cell of a title block without a value'],
  },
  ({ project, sheets, package: pack }) => {
    const held = new Set(pack.order);
    return sheets
      .filter(({ id, from }) => !from && held.has(id))
      .flatMap((sheet): FoundProblem<'title.template' | 'title.blank'>[] => {
        if (!sheet.titleBlock) return [];
        const about = nameOf(sheet);
        if (!templateOf(project, sheet.titleBlock)) {
          const sentence = `${about} uses the title-block template "${sheet.titleBlock.template}", which does not exist; choose another.`;
          return [{ code: 'title.template', sentence, place: { sheet: about }, about: sheet.id }];
        }
        // Paper and scale always have a value, whatever it is.
        const facts = { project, sheet, paper: { width: 0, height: 0 }, scales: [], imperial: false };
        const blank = blankCells(facts);
        const [first] = blank;
        if (!first) return [];
        // The first field of the cell is the one to be filled in.
        const [, name] = /\[([\w.-]+)/.exec(first.cell.text ?? '') ?? [];
        const field = name && { field: name.includes('.') ? name : `title.${name}` };
        const sentence = `The title block of ${about} has no ${blank.map(({ caption }) => caption).join(', ')}; fill it in on the sheet.`;
        return [{ code: 'title.blank', sentence, place: { sheet: about }, about: sheet.id, ...field }];
      });
  },
);
