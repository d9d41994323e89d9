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

const TEXTS = {
  strokes: 'single-stroke lettering as lines that can be searched',
  outlines: 'texts as outlines that can be searched',
  picture: 'texts as pictures that can be searched',
} as const;

const OPENS = { page: '', width: 'opening at its full width', 'full-size': 'opening at full size' } as const;

/** What a recipe does, in one sentence. */
export function recipeInWords(recipe: Recipe, project: { penSchedules?: PenSchedule[] }): string {
  const { colour, pens, leastWeight, weightFactor = 1, layers, layersByView } = recipe;
  const { pictureDpi, pictureQuality, pictureTone, links = 'plain', version = '1.7' } = recipe;
  const { layersLocked = [], layersPrintOnly = [], text, turn, opens = 'page', linearised } = recipe;
  const layered = layers !== 'none' && version !== '1.4';
  const schedule = schedulesOf(project).find(({ id }) => id === pens);
  const parts = [
    `Prints ${COLOURS[colour]}`,
    schedule?.rules.length ? `with the pens ${schedule.name}` : 'with lines as they are drawn',
    ...(weightFactor !== 1 ? [`all weights × ${weightFactor}`] : []),
    ...(leastWeight ? [`no line under ${leastWeight} mm`] : []),
    `${layered ? LAYERS[layers] : LAYERS.none}${layersByView && layered ? ' by view' : ''}`,
    ...(layered && layersLocked.length ? [`${layersLocked.join(', ')} locked`] : []),
    ...(layered && layersPrintOnly.length && version !== 'A-2b' ? [`${layersPrintOnly.join(', ')} only in print`] : []),
    ...(text ? [TEXTS[text]] : []),
    ...(pictureDpi ? [`pictures of at most ${pictureDpi} dpi`] : []),
    ...(pictureQuality ? [`JPEG quality ${pictureQuality}`] : []),
    ...(pictureTone ? ['pictures in black and white'] : []),
    LINKS[links],
    ...(turn ? [`pages turned by ${turn}°`] : []),
    ...(opens === 'page' ? [] : [OPENS[opens]]),
    ...(linearised ? ['laid out for reading over a network'] : []),
    ...(version === '1.7' ? [] : [version === 'A-2b' ? 'as PDF/A-2b, for keeping' : `as PDF ${version}`]),
  ];
  return `${parts.join(', ')}.`;
}
