import { recipeInWords, schedulesOf, type ColourMode, type ProjectFacts, type Recipe } from '@folvex/core';
import type { Column, Row } from './rows';

/** Columns of the recipes of a project; its pen schedules are among the choices. */
export function recipeColumns(project: Pick<ProjectFacts, 'penSchedules'>): Column[] {
  const pens = schedulesOf(project).map(({ id, name }) => [id, name] as const);
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
      key: 'layers',
      caption: 'Layers',
      kind: 'choice',
      choices: [
        ['shown', 'those shown'],
        ['none', 'none'],
      ],
      share: 1.5,
    },
  ];
}

export function recipeRow(recipe: Recipe): Row {
  const { id, name, colour, pens = 'as-drawn', leastWeight = 0, weightFactor = 1, layers } = recipe;
  return { id, name, colour, pens, leastWeight, weightFactor, layers };
}

/** A recipe from its row; what is as usual is left out, and what the row does not show stays. */
export function recipeOf(row: Row, before: Recipe | undefined, id: string): Recipe {
  const { pens: _, leastWeight: __, weightFactor: ___, ...kept } = before ?? ({} as Partial<Recipe>);
  const [least, factor] = [Number(row['leastWeight']), Number(row['weightFactor'])];
  return {
    ...kept,
    id,
    name: String(row['name']),
    colour: row['colour'] as ColourMode,
    layers: row['layers'] as Recipe['layers'],
    ...(row['pens'] !== 'as-drawn' && { pens: String(row['pens']) }),
    ...(least > 0 && { leastWeight: least }),
    ...(factor !== 1 && { weightFactor: factor }),
  };
}

export function sentencesOf(
  recipes: readonly Recipe[],
  project: Pick<ProjectFacts, 'penSchedules'>,
): [string, string][] {
  return recipes.map((recipe) => [recipe.name, recipeInWords(recipe, project)]);
}
