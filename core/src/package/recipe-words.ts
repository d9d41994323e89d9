import { schedulesOf, type PenSchedule } from '../pens/schedule';
import type { Recipe } from './model';

const COLOURS = { full: 'in full colour', greys: 'in greys', black: 'all black' } as const;
const LAYERS = { none: 'without layers', shown: 'with the layers that are shown' } as const;

/** What a recipe does, in one sentence. */
export function recipeInWords(recipe: Recipe, project: { penSchedules?: PenSchedule[] }): string {
  const { colour, pens, leastWeight, weightFactor = 1, layers } = recipe;
  const schedule = schedulesOf(project).find(({ id }) => id === pens);
  const parts = [
    `Prints ${COLOURS[colour]}`,
    schedule?.rules.length ? `with the pens ${schedule.name}` : 'with lines as they are drawn',
    ...(weightFactor !== 1 ? [`all weights × ${weightFactor}`] : []),
    ...(leastWeight ? [`no line under ${leastWeight} mm`] : []),
    LAYERS[layers],
  ];
  return `${parts.join(', ')}.`;
}
