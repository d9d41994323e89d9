import { drawingsShown } from '../../sheet/model';
import { nameOf, forEachSheet, defineCheck } from '../finding';

/** A drawing refers to a file that nobody added. */
export const missingFiles = defineCheck(
  {
    'drawing.missing-file': ['warning', 'a drawing that refers to a file which is not here'],
  },
  (input, plan) => {
    const there = new Set([...(input.latest?.values() ?? [])].map(({ name }) => name.toLowerCase()));
    return forEachSheet((sheet, { latest }) =>
      drawingsShown(sheet).flatMap((id) => {
        const drawing = latest?.get(id);
        return (drawing?.references ?? [])
          .filter((name) => !there.has(name.toLowerCase()))
          .map((name) => ({
            code: 'drawing.missing-file' as const,
            sentence: `${drawing!.name} on ${nameOf(sheet)} refers to ${name}, which is not in this project; add it under Gather.`,
          }));
      }),
    )(input, plan);
  },
);
