import { recipeInWords, schedulesOf, type ColourMode, type ProjectFacts, type Recipe } from '@folvex/core';
import type { Column, Row } from './rows';

/** Columns of the recipes of a project; its pen schedules are among the choices. */
export function recipeColumns(facts: Pick<ProjectFacts, 'penSchedules'>): Column[] {
  const pens = schedulesOf(facts).map(({ id, name }) => [id, name] as const);
  return [
    { key: 'name', caption: 'Name', kind: 'text', share: 3 },
    {
      key: 'colour',
      caption: 'Colours',
      kind: 'choice',
      choices: [
        ['full', 'full colour'],
        ['greys', 'greys'],
        ['black', 'all black'],
      ],
      share: 1.5,
    },
    { key: 'pens', caption: 'Pens', kind: 'choice', choices: pens, share: 2 },
    { key: 'leastWeight', caption: 'Least weight, mm', kind: 'number', least: 0, most: 2 },
    { key: 'weightFactor', caption: 'Weights ×', kind: 'number', least: 0.1, most: 4 },
    {
      key: 'pictureDpi',
      caption: 'Pictures, dpi',
      kind: 'text',
      optional: true,
      pattern: /^(7[2-9]|[89]\d|[1-9]\d\d|1[01]\d\d|1200)$/,
      patternWords: 'a number from 72 to 1200, or blank for as they came',
    },
    {
      key: 'pictureQuality',
      caption: 'JPEG, %',
      kind: 'text',
      optional: true,
      pattern: /^([1-9]\d?|100)$/,
      patternWords: 'a number from 1 to 100, or blank for without loss',
    },
    {
      key: 'links',
      caption: 'Links',
      kind: 'choice',
      choices: [
        ['plain', 'not seen'],
        ['underlined', 'underlined'],
        ['tinted', 'tinted'],
        ['none', 'none'],
      ],
      share: 1.4,
    },
    {
      key: 'version',
      caption: 'PDF',
      kind: 'choice',
      choices: [
        ['1.7', '1.7'],
        ['2.0', '2.0'],
        ['A-2b', 'A-2b, to keep'],
        ['1.4', '1.4, old'],
      ],
    },
    {
      key: 'layers',
      caption: 'Layers',
      kind: 'choice',
      choices: [
        ['shown', 'those shown'],
        ['shown view', 'those shown, by view'],
        ['all', 'all'],
        ['all view', 'all, by view'],
        ['none', 'none'],
      ],
      share: 1.5,
    },
  ];
}

export function recipeRow(recipe: Recipe): Row {
  const { id, name, colour, layers, layersByView } = recipe;
  const { pens = 'as-drawn', leastWeight = 0, weightFactor = 1 } = recipe;
  const { pictureDpi = '', pictureQuality = '', links = 'plain', version = '1.7' } = recipe;
  const shown = layersByView ? `${layers} view` : layers;
  return {
    id,
    name,
    colour,
    pens,
    leastWeight,
    weightFactor,
    pictureDpi,
    pictureQuality,
    links,
    version,
    layers: shown,
  };
}

/** A recipe from its row; what is as usual is left out, and what the row does not show stays. */
export function recipeOf(row: Row, before: Recipe | undefined, id: string): Recipe {
  const recipe: Recipe = {
    ...before,
    id,
    name: String(row['name']),
    colour: row['colour'] as ColourMode,
    layers: String(row['layers']).split(' ')[0] as Recipe['layers'],
    pens: String(row['pens']),
    leastWeight: Number(row['leastWeight']),
    weightFactor: Number(row['weightFactor']),
    links: row['links'] as NonNullable<Recipe['links']>,
    version: row['version'] as NonNullable<Recipe['version']>,
  };
  delete recipe.layersByView;
  for (const key of ['pictureDpi', 'pictureQuality'] as const) {
    if (String(row[key]).trim() === '') delete recipe[key];
    else recipe[key] = Number(row[key]);
  }
  if (String(row['layers']).endsWith(' view')) recipe.layersByView = true;
  for (const key of Object.keys(USUAL) as (keyof typeof USUAL)[]) if (recipe[key] === USUAL[key]) delete recipe[key];
  return recipe;
}

/** What goes without saying. */
const USUAL = { pens: 'as-drawn', leastWeight: 0, weightFactor: 1, links: 'plain', version: '1.7' } as const;

export function sentencesOf(
  recipes: readonly Recipe[],
  project: Pick<ProjectFacts, 'penSchedules'>,
): [string, string][] {
  return recipes.map((recipe) => [recipe.name, recipeInWords(recipe, project)]);
}
