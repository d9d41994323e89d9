import { drawingsShown } from '../../sheet/model';
import { nameOf, ofEachSheet, type Check } from './finding';

/** A drawing refers to a file that nobody added. */
export const missingFiles: Check = (input, plan) => {
  const there = new Set([...(input.latest?.values() ?? [])].map(({ name }) => name.toLowerCase()));
  return ofEachSheet((sheet, { latest }) =>
    drawingsShown(sheet).flatMap((id) => {
      const drawing = latest?.get(id);
      return (drawing?.references ?? [])
        .filter((name) => !there.has(name.toLowerCase()))
        .map((name) => ({
          code: 'drawing.missing-file',
          severity: 'warning' as const,
          sentence: `${drawing!.name} on ${nameOf(sheet)} refers to ${name}, which is not here; add it where drawings are gathered.`,
        }));
    }),
  )(input, plan);
};
