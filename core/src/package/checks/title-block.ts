import { blankCells, templateOf } from '../../sheet/title/fields';
import { nameOf, type Check, type Finding } from './finding';

/** A required cell of a sheet's title block has no value, or its template is not there. */
export const titleBlocks: Check = ({ project, sheets, package: pack }) =>
  sheets
    .filter(({ id, from }) => !from && pack.order.includes(id))
    .flatMap((sheet): Finding[] => {
      if (!sheet.titleBlock) return [];
      const about = nameOf(sheet);
      if (!templateOf(project, sheet.titleBlock)) {
        const sentence = `${about} asks for the title-block template "${sheet.titleBlock.template}", which is not there; choose another.`;
        return [{ code: 'title.template', severity: 'stop', sentence, place: { sheet: about }, about: sheet.id }];
      }
      // Paper and scale always have a value, whatever it is.
      const facts = { project, sheet, paper: { width: 0, height: 0 }, scales: [], imperial: false };
      const blank = blankCells(facts).map(({ caption }) => caption);
      if (blank.length === 0) return [];
      const sentence = `The title block of ${about} has no ${blank.join(', ')}; fill that in on the sheet.`;
      return [{ code: 'title.blank', severity: 'warning', sentence, place: { sheet: about }, about: sheet.id }];
    });
