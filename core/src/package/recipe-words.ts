import { schedulesOf, type PenSchedule } from '../pens/schedule';
import type { Recipe } from './model';

const COLOURS = { full: 'in full colour', greys: 'in greys', black: 'all black' } as const;
const LAYERS = {
  none: 'without layers',
  shown: 'with the layers that are shown',
  all: 'with all layers, the hidden ones off',
} as const;

const LINKS = {
  none: 'without links',
  plain: 'sheets linked',
  underlined: 'sheets linked and underlined',
  tinted: 'sheets linked and tinted',
} as const;

/** What a recipe does, in one sentence. */
export function recipeInWords(recipe: Recipe, project: { penSchedules?: PenSchedule[] }): string {
  const { colour, pens, leastWeight, weightFactor = 1, layers, layersByView } = recipe;
  const { pictureDpi, pictureQuality, links = 'plain', version = '1.7' } = recipe;
  const schedule = schedulesOf(project).find(({ id }) => id === pens);
  const parts = [
    `Prints ${COLOURS[colour]}`,
    schedule?.rules.length ? `with the pens ${schedule.name}` : 'with lines as they are drawn',
    ...(weightFactor !== 1 ? [`all weights × ${weightFactor}`] : []),
    ...(leastWeight ? [`no line under ${leastWeight} mm`] : []),
    `${version === '1.4' ? LAYERS.none : LAYERS[layers]}${layersByView && layers !== 'none' ? ' by view' : ''}`,
    ...(pictureDpi ? [`pictures of at most ${pictureDpi} dpi`] : []),
    ...(pictureQuality ? [`JPEG quality ${pictureQuality}`] : []),
    LINKS[links],
    ...(version === '1.7' ? [] : [version === 'A-2b' ? 'as PDF/A-2b, for keeping' : `as PDF ${version}`]),
  ];
  return `${parts.join(', ')}.`;
}
